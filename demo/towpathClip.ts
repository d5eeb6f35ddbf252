import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ffmpeg } from '../codecs/video/clip';
import type { Raster } from '../core/raster/raster';
import { lockByNight, mistyTowpath } from './grounds/grounds';

export const TOWPATH = { fileName: 'towpath.mp4', width: 1280, height: 720, rate: 25, seconds: 8 };
/** The camera moves over pictures this much larger. */
const ROOM = { width: 220, height: 40 };
/** One scene goes over into the other in the middle, frames. */
const FADE_FRAMES = 20;

/** The towpath by day, and from the middle on the lock by night, as a slowly moving camera sees them. */
function* drawFrames(): Generator<Uint8Array> {
  const { width, height, rate, seconds } = TOWPATH;
  const scenes = [mistyTowpath, lockByNight].map((draw) => draw(width + ROOM.width, height + ROOM.height));
  const count = rate * seconds;
  for (let k = 0; k < count; k++) {
    const share = k / (count - 1);
    const night = Math.min(1, Math.max(0, (k - count / 2) / FADE_FRAMES + 0.5));
    const seen = scenes.map((scene) => windowOf(scene, share));
    if (night === 0 || night === 1) yield seen[night];
    else yield seen[0].map((v, p) => Math.round(v + (seen[1][p] - v) * night));
  }
}

function windowOf({ data, width: whole }: Raster, share: number): Uint8Array {
  const { width, height } = TOWPATH;
  const left = Math.round(share * ROOM.width);
  const top = Math.round((0.5 - 0.5 * Math.cos(share * Math.PI)) * ROOM.height);
  const out = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++) {
    const from = ((top + y) * whole + left) * 4;
    out.set(data.subarray(from, from + width * 4), y * width * 4);
  }
  return out;
}

/** The towpath clip as MP4, with a quiet murmur of water. */
export async function drawTowpathClip(): Promise<Uint8Array> {
  const { width, height, rate, seconds } = TOWPATH;
  const folder = mkdtempSync(join(tmpdir(), 'tassel-towpath-'));
  try {
    const out = join(folder, TOWPATH.fileName);
    const frames = [
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-s',
      `${width}x${height}`,
      '-r',
      String(rate),
      '-i',
      'pipe:0',
    ];
    const water = ['-f', 'lavfi', '-i', `anoisesrc=amplitude=0.02:duration=${seconds}:color=brown:seed=7`];
    const coded = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '21', '-c:a', 'aac', '-b:a', '64k'];
    const colour = ['-vf', 'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p', '-colorspace', 'bt709'];
    const tags = ['-color_primaries', 'bt709', '-color_trc', 'bt709', '-movflags', '+faststart', '-shortest'];
    await ffmpeg(['-v', 'error', ...frames, ...water, ...colour, ...coded, ...tags, out], { input: drawFrames() });
    return new Uint8Array(readFileSync(out));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

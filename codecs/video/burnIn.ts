import { extname } from 'node:path';
import { renameSync, rmSync } from 'node:fs';
import { CoreError } from '../../core/errors';
import { bleedColours } from '../../core/raster/bleedColours';
import type { Raster } from '../../core/raster/raster';
import { type Clip, type FfmpegOptions, ffmpeg, inputOf, probeClip } from './clip';

/** When a mark is on a clip, seconds from its beginning. */
export interface Showing {
  readonly from?: number;
  readonly until?: number;
  readonly fadeIn?: number;
  readonly fadeOut?: number;
}

/** A part of the clip, seconds; all of it without one. */
export interface Cut {
  readonly from: number;
  readonly until: number;
}

export interface BurnOrder {
  /** Straight alpha, as large as the clip's picture. */
  readonly frame: Raster;
  readonly showing?: Showing;
  readonly cut?: Cut;
}

/** Hardly to be told from the original, and not many times its size. */
const CRF = '16';
/** Sound that fits into a container as it is; other is refused, since it is never made anew. */
const SOUND_IN: Record<string, readonly string[] | null> = {
  '.mp4': ['aac', 'mp3', 'ac3', 'eac3', 'alac', 'opus', 'flac'],
  '.mov': null,
};

/**
 * Lays one picture on every frame of a clip. The picture is coded anew, every frame at its own time; the sound is
 * copied. The file appears under its name when it is whole and was read back.
 * @throws CoreError 'clip/damaged', 'cli/usage', 'file/read-back' naming the file; NoProgram
 */
export async function burnIn(clip: Clip, order: BurnOrder, out: string, options: FfmpegOptions = {}): Promise<void> {
  const { frame, cut } = order;
  const ending = extname(out).toLowerCase();
  const { sound } = clip;
  const takes = SOUND_IN[ending];
  if (takes === undefined)
    throw new CoreError('cli/usage', `A clip with the mark burnt in ends in .mp4 or .mov, got "${out}".`);
  if (sound && takes && !takes.includes(sound))
    throw new CoreError('cli/usage', `${out}: an MP4 file does not hold sound of the kind ${sound}. End it in .mov.`);
  if (clip.width % 2 || clip.height % 2)
    throw new CoreError(
      'clip/damaged',
      `${out}: the clip is ${clip.width} × ${clip.height} px, and H.264 takes even sides. Save it in an even size.`,
    );
  const part = `${out}.${process.pid}.part${ending}`;
  const range = clip.isFullRange ? 'pc' : 'tv';
  const still = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${frame.width}x${frame.height}`, '-i', 'pipe:0'];
  try {
    await ffmpeg(
      [
        ...['-v', 'error'],
        ...(cut ? ['-ss', String(cut.from), '-to', String(cut.until)] : []),
        ...inputOf(clip.path),
        ...still,
        ...['-filter_complex', filtersOf(clip, order), '-map', '[out]', '-map', '0:a?', '-c:a', 'copy'],
        // Every frame at its own time, none twice and none left out.
        ...['-fps_mode', 'passthrough', '-enc_time_base', '-1', '-map_metadata', '-1'],
        ...['-c:v', 'libx264', '-preset', 'medium', '-crf', CRF, '-pix_fmt', 'yuv420p'],
        // What the clip does not say of its colours is not said of it now.
        ...(clip.isMatrixTold ? ['-colorspace', clip.matrix, '-color_range', range] : []),
        ...['-movflags', '+faststart', part],
      ],
      { ...options, input: [bleedColours(frame).data] },
    );
    const back = await probeClip(part);
    const length = cut ? Math.min(cut.until, clip.seconds) - cut.from : clip.seconds;
    const isWhole = cut || clip.frames === null || back.frames === clip.frames;
    if (back.width !== clip.width || back.height !== clip.height || !isWhole || Math.abs(back.seconds - length) > 0.2)
      throw new CoreError('file/read-back', `${out} did not read back as written.`, { file: out });
    renameSync(part, out);
  } finally {
    rmSync(part, { force: true });
  }
}

function filtersOf(clip: Clip, { showing = {}, cut }: BurnOrder): string {
  const range = clip.isFullRange ? 'pc' : 'tv';
  const end = (cut ? cut.until - cut.from : clip.seconds) + 1;
  const from = showing.from ?? 0;
  const until = showing.until ?? Infinity;
  const isWhole = from <= 0 && !Number.isFinite(until);
  const fades = [
    ...(showing.fadeIn ? [`fade=t=in:st=${from}:d=${showing.fadeIn}:alpha=1`] : []),
    ...(showing.fadeOut && Number.isFinite(until)
      ? [`fade=t=out:st=${Math.max(from, until - showing.fadeOut)}:d=${showing.fadeOut}:alpha=1`]
      : []),
  ];
  // A mark that fades is a moving picture of its own; one that does not is one frame, carried on to the end.
  const moving = fades.length > 0 ? [`loop=loop=${Math.ceil(end * 25)}:size=1:start=0,setpts=N/(25*TB)`, ...fades] : [];
  const mark = [
    ...moving,
    `scale=in_range=pc:out_color_matrix=${clip.matrix}:out_range=${range}:flags=accurate_rnd+full_chroma_int`,
    'format=yuva444p',
  ].join(',');
  const when = isWhole ? '' : `:enable='between(t,${from},${Number.isFinite(until) ? until : end})'`;
  return [
    `[1:v]${mark}[mark]`,
    '[0:v]format=yuv444p[clip]',
    `[clip][mark]overlay=0:0:eof_action=repeat:format=yuv444${when},format=yuv420p[out]`,
  ].join(';');
}

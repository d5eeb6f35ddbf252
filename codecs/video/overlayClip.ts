import { renameSync, rmSync } from 'node:fs';
import { CoreError } from '../../core/errors';
import { layOn } from '../../core/raster/flatten';
import { rgbFromHex } from '../../core/colour/hex';
import { KEY_COLOURS } from '../../core/purposes/keyColour';
import { bleedColours } from '../../core/raster/bleedColours';
import type { Raster } from '../../core/raster/raster';
import { type FfmpegOptions, ffmpeg, probeClip } from './clip';

/** In what a mark on a whole clear frame goes to a video program. */
export const OVERLAY_FORMS = ['png', 'prores4444', 'webm', 'key-green', 'key-blue'] as const;
export type OverlayForm = (typeof OVERLAY_FORMS)[number];

const KEYS = { 'key-green': KEY_COLOURS.green, 'key-blue': KEY_COLOURS.blue } as const;
/** The flat colour round the mark, for forms that have one. */
export const keyOf = (form: OverlayForm): string | null => KEYS[form as keyof typeof KEYS] ?? null;
export const ENDING_OF: Record<OverlayForm, string> = {
  ...{ png: 'png', prores4444: 'mov', webm: 'webm' },
  ...{ 'key-green': 'mp4', 'key-blue': 'mp4' },
};

/** Frames per second where nobody says. */
export const USUAL_RATE = 25;

export interface OverlayOrder {
  readonly form: OverlayForm;
  readonly seconds: number;
  /** Frames per second. */
  readonly rate: number;
  /** Seconds over which the mark comes and goes; whole from the first frame to the last without them. */
  readonly fadeIn?: number;
  readonly fadeOut?: number;
}

/** BT.709 is what every program takes a frame of this size for, and what is written is told so. */
const TAGS = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'];
const MATRIX = 'scale=in_range=pc:out_color_matrix=bt709:out_range=tv:flags=accurate_rnd+full_chroma_int';
const SAID = 'setparams=colorspace=bt709:color_primaries=bt709:color_trc=bt709:range=tv';
/** In this many bits alpha of eight comes back as it was. */
const ALPHA_BITS = '16';

/**
 * Writes one frame as a file: a picture, or a clip of so many seconds. A clip appears under its name when it is whole
 * and was read back.
 * @param frame  straight alpha
 * @throws CoreError 'file/read-back', NoProgram
 */
export async function writeOverlay(frame: Raster, order: OverlayOrder, out: string, options: FfmpegOptions = {}) {
  const { form, seconds, rate } = order;
  const part = `${out}.${process.pid}.part.${ENDING_OF[form]}`;
  const key = keyOf(form);
  const flat = key ? layOn(frame, rgbFromHex(key)) : bleedColours(frame);
  const frames = Math.max(1, Math.round(seconds * rate));
  const input = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${flat.width}x${flat.height}`, '-r', String(rate)];
  try {
    await ffmpeg(
      [
        ...['-v', 'error', ...input, '-i', 'pipe:0'],
        ...['-vf', filtersOf(order, frames)],
        ...['-frames:v', String(frames), '-map_metadata', '-1', '-fflags', '+bitexact', '-flags:v', '+bitexact'],
        ...codecOf(order),
        ...TAGS,
        part,
      ],
      { ...options, input: [flat.data] },
    );
    const back = await probeClip(part);
    const isSame = back.width === frame.width && back.height === frame.height;
    if (!isSame || Math.abs(back.seconds - frames / rate) > 0.5 / rate)
      throw new CoreError('file/read-back', `${out} did not read back as written.`, { file: out });
    renameSync(part, out);
  } finally {
    rmSync(part, { force: true });
  }
}

function filtersOf({ form, rate, fadeIn = 0, fadeOut = 0 }: OverlayOrder, frames: number): string {
  const alpha = keyOf(form) ? '' : ':alpha=1';
  const length = frames / rate;
  return [
    // The one frame again and again.
    `loop=loop=${frames - 1}:size=1:start=0`,
    `setpts=N/(${rate}*TB)`,
    ...(fadeIn > 0 ? [`fade=t=in:st=0:d=${fadeIn}${alpha}`] : []),
    ...(fadeOut > 0 ? [`fade=t=out:st=${Math.max(0, length - fadeOut)}:d=${fadeOut}${alpha}`] : []),
    MATRIX,
    SAID,
    `format=${{ prores4444: 'yuva444p10le', webm: 'yuva420p' }[form as string] ?? 'yuv420p'}`,
  ].join(',');
}

function codecOf({ form, fadeIn = 0, fadeOut = 0 }: OverlayOrder): string[] {
  if (form === 'prores4444')
    return ['-c:v', 'prores_ks', '-profile:v', '4444', '-alpha_bits', ALPHA_BITS, '-qscale:v', '6', '-vendor', 'apl0'];
  if (form === 'webm') {
    // A frame that stays costs hardly more without any loss; one that fades would cost many times as much.
    const isStill = fadeIn === 0 && fadeOut === 0;
    return [
      ...['-c:v', 'libvpx-vp9', '-b:v', '0', ...(isStill ? ['-lossless', '1'] : ['-crf', '8'])],
      ...['-auto-alt-ref', '0', '-deadline', 'good', '-cpu-used', '4', '-row-mt', '1'],
    ];
  }
  return ['-c:v', 'libx264', '-preset', 'medium', '-crf', '10', '-movflags', '+faststart'];
}

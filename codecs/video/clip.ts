import { execFile, spawn } from 'node:child_process';
import { closeSync, openSync, readSync, statSync } from 'node:fs';
import { basename } from 'node:path';
import { Readable } from 'node:stream';
import { CoreError } from '../../core/errors';
import type { Raster } from '../../core/raster/raster';
import { NoProgram } from '../runProgram';

export const CLIP_ENDINGS = ['.mp4', '.mov', '.webm'];
export const MOST_CLIP_SECONDS = 30 * 60;
export const MOST_CLIP_BYTES = 4 * 1024 ** 3;
const MOST_CLIP_SIDE = 4096;
const LEAST_CLIP_SIDE = 16;
const PROBE_MS = 30_000;

/** What is known of a clip. Sizes are of the picture as it is shown, upright. */
export interface Clip {
  readonly path: string;
  readonly width: number;
  readonly height: number;
  readonly seconds: number;
  /** Frames per second as a fraction, such as "25/1". */
  readonly rate: string;
  readonly frames: number | null;
  readonly codec: string;
  /** As ffmpeg names it; null without sound. */
  readonly sound: string | null;
  /** The matrix by which its colours are coded, as ffmpeg names it. */
  readonly matrix: 'bt709' | 'smpte170m';
  /** Whether the file itself says so. */
  readonly isMatrixTold: boolean;
  readonly isFullRange: boolean;
}

/** Readers that follow no address and no list of other files. */
const SAFE_INPUT = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', 'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm'];
export const inputOf = (path: string): string[] => [...SAFE_INPUT, '-i', path];

/**
 * Looks at a clip without decoding it whole.
 * @throws CoreError 'file/not-readable', 'clip/damaged', 'clip/too-long' naming the file; NoProgram
 */
export async function probeClip(path: string, name = basename(path)): Promise<Clip> {
  checkBytes(path, name);
  const args = ['-v', 'error', ...SAFE_INPUT, '-show_streams', '-show_format', '-of', 'json', path];
  const text = await output('ffprobe', args, PROBE_MS).catch((cause) => {
    if (cause instanceof NoProgram) throw cause;
    throw damaged(name, cause);
  });
  const { streams, format } = JSON.parse(text) as Probed;
  const video = streams?.find((s) => s.codec_type === 'video' && s.disposition?.attached_pic !== 1);
  const seconds = Number(video?.duration ?? format?.duration);
  if (!video || !Number.isFinite(seconds) || seconds <= 0) throw damaged(name, new Error('it holds no moving picture'));
  const turn = Math.abs(Number(video.side_data_list?.find((d) => d.rotation !== undefined)?.rotation ?? 0));
  const [width, height] = turn % 180 === 90 ? [video.height, video.width] : [video.width, video.height];
  if (Math.max(width, height) > MOST_CLIP_SIDE || Math.min(width, height) < LEAST_CLIP_SIDE)
    throw new CoreError(
      'clip/damaged',
      `${name} is ${width} × ${height} px; a clip has sides of ${LEAST_CLIP_SIDE} to ${MOST_CLIP_SIDE} px.`,
      { file: name },
    );
  if (seconds > MOST_CLIP_SECONDS)
    throw new CoreError(
      'clip/too-long',
      `${name} lasts ${Math.round(seconds / 60)} minutes; the most is ${MOST_CLIP_SECONDS / 60}. Cut it shorter.`,
      { file: name },
    );
  return {
    ...{
      path,
      width,
      height,
      seconds,
      rate: video.avg_frame_rate === '0/0' ? video.r_frame_rate : video.avg_frame_rate,
    },
    frames: video.nb_frames ? Number(video.nb_frames) : null,
    codec: video.codec_name,
    sound: streams?.find((s) => s.codec_type === 'audio')?.codec_name ?? null,
    // Where nothing is said, as every player takes it: standard definition by the older matrix.
    matrix: isOldMatrix(video.color_space) || (!isTold(video.color_space) && height < 720) ? 'smpte170m' : 'bt709',
    isMatrixTold: isTold(video.color_space),
    isFullRange: video.color_range === 'pc',
  };
}

const isTold = (space: string | undefined) => space !== undefined && space !== 'unknown';
const isOldMatrix = (space: string | undefined) => space === 'smpte170m' || space === 'bt470bg';

interface Probed {
  readonly streams?: readonly {
    codec_type: string;
    codec_name: string;
    width: number;
    height: number;
    avg_frame_rate: string;
    r_frame_rate: string;
    duration?: string;
    nb_frames?: string;
    color_space?: string;
    color_range?: string;
    disposition?: { attached_pic?: number };
    side_data_list?: readonly { rotation?: number }[];
  }[];
  readonly format?: { duration?: string };
}

function checkBytes(path: string, name: string): void {
  const head = Buffer.alloc(12);
  let size: number;
  try {
    size = statSync(path).size;
    const file = openSync(path, 'r');
    readSync(file, head, 0, head.length, 0);
    closeSync(file);
  } catch (cause) {
    const isMissing = (cause as NodeJS.ErrnoException).code === 'ENOENT';
    const why = isMissing ? 'there is no such file' : (cause as Error).message;
    throw new CoreError('file/not-readable', `${name} cannot be read: ${why}.`, { file: name }, { cause });
  }
  if (size > MOST_CLIP_BYTES)
    throw new CoreError('clip/too-long', `${name} has over 4 GB. Cut it shorter, or save it smaller.`, { file: name });
  // ISO base media files name their kind from the fifth byte on; Matroska starts with its own four.
  const isIso = ['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip'].includes(head.toString('latin1', 4, 8));
  if (!isIso && head.readUInt32BE(0) !== 0x1a45dfa3)
    throw new CoreError('clip/damaged', `${name} is no MP4, MOV or WebM clip. Save it as one of these.`, {
      file: name,
    });
}

const damaged = (name: string, cause: unknown) =>
  new CoreError(
    'clip/damaged',
    `${name} cannot be read as a clip (${(cause as Error).message}). Save it again as MP4, MOV or WebM.`,
    { file: name },
    { cause },
  );

/**
 * Frames of one clip at several times. Of a short clip all come from one run through it; of a long one each is sought.
 * @throws CoreError 'clip/damaged' naming the file
 */
export async function framesAt(clip: Clip, times: readonly number[]): Promise<Raster[]> {
  if (clip.seconds > SHORT_SECONDS) {
    const all: Raster[] = [];
    for (const seconds of times) all.push(await frameAt(clip, seconds));
    return all;
  }
  const { width, height } = clip;
  // The first frame at or after each time.
  const picks = times.map((t) => `lt(prev_pts*TB,${t})*gte(pts*TB,${t})`).join('+');
  const first = times[0] <= 0 ? 'eq(n,0)+' : '';
  const args = ['-v', 'error', ...inputOf(clip.path), '-vf', `select='${first}${picks}',${toRgb(clip)}`];
  const data = await ffmpeg([...args, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1']);
  const size = width * height * 4;
  if (data.length === 0 || data.length % size !== 0) throw damaged(basename(clip.path), new Error('it has no frames'));
  return Array.from({ length: data.length / size }, (_, k) => ({
    ...{ width, height },
    data: Uint8Array.from(data.subarray(k * size, (k + 1) * size)),
  }));
}
const SHORT_SECONDS = 40;

/** One frame, upright, as it is shown at a time. @throws CoreError 'clip/damaged' naming the file */
export async function frameAt(clip: Clip, seconds: number, width = clip.width): Promise<Raster> {
  const height = Math.max(1, Math.round((clip.height * width) / clip.width));
  const args = ['-v', 'error', '-ss', String(Math.max(0, seconds)), ...inputOf(clip.path), '-frames:v', '1'];
  const filter = `${toRgb(clip)},scale=${width}:${height}:flags=area`;
  const data = await ffmpeg([...args, '-vf', filter, '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'], {
    maxMs: 60_000,
  });
  if (data.length !== width * height * 4) throw damaged(basename(clip.path), new Error(`no frame at ${seconds} s`));
  return { width, height, data: Uint8Array.from(data) };
}

export const toRgb = ({ matrix, isFullRange }: Clip) =>
  `scale=in_color_matrix=${matrix}:in_range=${isFullRange ? 'pc' : 'tv'}:out_range=pc,format=rgba`;

export interface FfmpegOptions {
  /** What it reads from its standard input, made as it asks for it. */
  readonly input?: Iterable<Uint8Array>;
  readonly maxMs?: number;
  /** Told of how many seconds of the result are written. */
  readonly onSeconds?: (seconds: number) => void;
  readonly signal?: AbortSignal;
}
const MOST_MS = 60 * 60_000;

/**
 * Runs ffmpeg by a list of words, never through a shell.
 * @returns what it writes to its standard output
 * @throws NoProgram, or Error with what it said
 */
export function ffmpeg(args: readonly string[], options: FfmpegOptions = {}): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const progress = options.onSeconds ? ['-progress', 'pipe:2', '-nostats'] : [];
    const child = spawn('ffmpeg', ['-hide_banner', '-nostdin', '-y', ...progress, ...args], {
      stdio: [options.input ? 'pipe' : 'ignore', 'pipe', 'pipe'],
      signal: options.signal,
      timeout: options.maxMs ?? MOST_MS,
      killSignal: 'SIGKILL',
    });
    const out: Buffer[] = [];
    let said = '';
    child.stdout?.on('data', (part: Buffer) => out.push(part));
    child.stderr?.on('data', (part: Buffer) => {
      const text = part.toString();
      const at = /out_time_us=(\d+)/.exec(text);
      if (at) options.onSeconds?.(Number(at[1]) / 1e6);
      said = (said + text.replace(/^\w+=.*\n/gm, '')).slice(-4000);
    });
    child.once('error', (error: NodeJS.ErrnoException) =>
      reject(error.code === 'ENOENT' ? new NoProgram('ffmpeg') : error),
    );
    child.once('close', (code) => {
      if (code === 0) resolve(Buffer.concat(out));
      else reject(new Error(said.trim().split('\n')[0] || `ffmpeg ended with ${code}`));
    });
    if (options.input && child.stdin) {
      // What it does not read any more is told by how it ends.
      child.stdin.on('error', () => {});
      Readable.from(options.input).pipe(child.stdin);
    }
  });
}

function output(program: string, args: string[], timeout: number): Promise<string> {
  return new Promise((resolve, reject) => {
    execFile(program, args, { timeout, maxBuffer: 64 * 1024 * 1024 }, (error, out, said) => {
      if (!error) resolve(out);
      else if ((error as NodeJS.ErrnoException).code === 'ENOENT') reject(new NoProgram(program));
      else reject(new Error(said.trim().split('\n')[0] || error.message, { cause: error }));
    });
  });
}

import type { RectPx } from '../../../../core/params';
import { fillChecker } from '../../../components/Canvas';
import { coverWith } from '../../../components/usePhoto';
import type { ProofGround } from '../../../data/proofGrounds';
import type { Viewport } from './useViewport';

export type BenchView = 'result' | 'original' | 'matte' | 'faint' | 'trouble';

export interface BenchPaint {
  readonly view: Viewport;
  readonly mode: BenchView;
  /** Size of what is looked at, full-size pixels; every bitmap spans it. */
  readonly width: number;
  readonly height: number;
  readonly original: ImageBitmap;
  readonly result: ImageBitmap | null;
  /** What the result spans, full-size pixels. */
  readonly extents: RectPx | null;
  readonly hasResult: boolean;
  readonly matte: ImageBitmap | null;
  readonly ground: ProofGround | null;
  readonly photo: ImageBitmap | null;
  /** Screen x of the wipe, or null for none. */
  readonly wipeX: number | null;
}

/** Draws the bench's picture: the original, what became of it, and the wipe between them. */
export function paintBench(context: CanvasRenderingContext2D, w: number, h: number, p: BenchPaint): void {
  const { view } = p;
  context.imageSmoothingEnabled = view.scale < 3; // single pixels stay single pixels
  context.imageSmoothingQuality = 'high';
  if (p.mode === 'original' || !p.hasResult) {
    paintOriginal(context, p, 0, w, h);
    return;
  }
  const wipe = p.mode === 'result' ? p.wipeX : null;
  context.save();
  context.beginPath();
  context.rect(wipe ?? 0, 0, w - (wipe ?? 0), h);
  context.clip();
  paintResult(context, p, w, h);
  context.restore();
  if (wipe !== null) {
    context.save();
    context.beginPath();
    context.rect(0, 0, wipe, h);
    context.clip();
    paintOriginal(context, p, 0, wipe, h);
    context.restore();
  }
}

function paintOriginal(
  context: CanvasRenderingContext2D,
  { view, width, height, original }: BenchPaint,
  x: number,
  w: number,
  h: number,
): void {
  const style = getComputedStyle(document.documentElement);
  context.fillStyle = style.getPropertyValue('--well');
  context.fillRect(x, 0, w, h);
  fillChecker(context, view.x, view.y, width * view.scale, height * view.scale);
  context.drawImage(original, view.x, view.y, width * view.scale, height * view.scale);
}

/** How strongly the matte shows beneath the marks of the trouble view. */
const DIMMED = 0.34;

function paintResult(
  context: CanvasRenderingContext2D,
  { view, mode, width, height, result, extents, matte, ground, photo }: BenchPaint,
  w: number,
  h: number,
): void {
  const isMatte = mode === 'matte' || mode === 'faint' || mode === 'trouble';
  if (isMatte) {
    context.fillStyle = '#000000';
    context.fillRect(0, 0, w, h);
  } else if (ground?.hex) {
    context.fillStyle = ground.hex;
    context.fillRect(0, 0, w, h);
  } else if (photo) coverWith(context, photo, 0, 0, w, h);
  else fillChecker(context, 0, 0, w, h);
  const bitmap = isMatte ? matte : result;
  if (!bitmap) return;
  const span = isMatte || !extents ? { x: 0, y: 0, width, height } : extents;
  const [a, d] = [span.width / bitmap.width, span.height / bitmap.height];
  const [ox, oy] = [view.x + span.x * view.scale, view.y + span.y * view.scale];
  // Only the part in sight: a browser without a graphics processor resamples all it is given.
  const left = Math.max(0, Math.floor((0 - ox) / view.scale / a));
  const top = Math.max(0, Math.floor((0 - oy) / view.scale / d));
  const right = Math.min(bitmap.width, Math.ceil((w - ox) / view.scale / a));
  const bottom = Math.min(bitmap.height, Math.ceil((h - oy) / view.scale / d));
  if (right <= left || bottom <= top) return;
  const x = left * a * view.scale + ox;
  const y = top * d * view.scale + oy;
  context.globalAlpha = mode === 'trouble' ? DIMMED : 1;
  context.drawImage(
    bitmap,
    left,
    top,
    right - left,
    bottom - top,
    x,
    y,
    (right - left) * a * view.scale,
    (bottom - top) * d * view.scale,
  );
  context.globalAlpha = 1;
}

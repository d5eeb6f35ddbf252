import { hexFromRgb } from '../../../../core/colour/hex';

/**
 * The colour under a point of a picture, averaged over 3 × 3 so that one noisy pixel does not decide. @param u v  0..1
 */
export function colourAt(bitmap: ImageBitmap, u: number, v: number): string | null {
  if (u < 0 || v < 0 || u >= 1 || v >= 1) return null;
  const canvas = new OffscreenCanvas(3, 3);
  const context = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
  context.drawImage(bitmap, Math.floor(u * bitmap.width) - 1, Math.floor(v * bitmap.height) - 1, 3, 3, 0, 0, 3, 3);
  const { data } = context.getImageData(0, 0, 3, 3);
  const sum = [0, 0, 0, 0];
  for (let i = 0; i < data.length; i += 4)
    if (data[i + 3] === 255) for (let c = 0; c < 4; c++) sum[c] += c < 3 ? data[i + c] : 1;
  return sum[3] === 0 ? null : hexFromRgb(sum.slice(0, 3).map((s) => s / sum[3]));
}

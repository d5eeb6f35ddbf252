import { rgbFromHex } from '../core/colour/hex';
import { contrastOnColour, measureLuminance } from '../core/raster/contrast';
import type { Raster } from '../core/raster/raster';
import type { GroundSource } from './protocol';

const photoColours = new Map<string, Promise<readonly [number, number, number]>>();

/** Contrast 1..21 of a mark on each ground, by the ground's id. */
export async function measureContrast(mark: Raster, grounds: readonly GroundSource[]): Promise<Record<string, number>> {
  const found: Record<string, number> = {};
  const profile = measureLuminance(mark);
  for (const g of grounds) {
    const colour = g.hex ? rgbFromHex(g.hex) : g.url ? await meanColour(g.url) : null;
    if (colour) found[g.id] = contrastOnColour(profile, colour);
  }
  return found;
}

function meanColour(url: string): Promise<readonly [number, number, number]> {
  let found = photoColours.get(url);
  if (!found) {
    found = measureMean(url);
    photoColours.set(url, found);
    found.catch(() => photoColours.delete(url));
  }
  return found;
}

/** A photo's mean is taken from so small a picture of it. */
const SIDE_PX = 32;

async function measureMean(url: string): Promise<readonly [number, number, number]> {
  const bitmap = await createImageBitmap(await (await fetch(url)).blob(), {
    resizeWidth: SIDE_PX,
    resizeHeight: SIDE_PX,
    resizeQuality: 'medium',
  });
  const context = new OffscreenCanvas(SIDE_PX, SIDE_PX).getContext('2d') as OffscreenCanvasRenderingContext2D;
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, SIDE_PX, SIDE_PX);
  const sum = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) for (let c = 0; c < 3; c++) sum[c] += data[i + c];
  return sum.map((v) => Math.round(v / (SIDE_PX * SIDE_PX))) as unknown as readonly [number, number, number];
}

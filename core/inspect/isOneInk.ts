import type { Rgb } from '../colour/hex';
import { measureInk, paperAt } from '../ink/inkColour';
import { measurePaper, shrink } from '../ink/paperLight';
import { type Raster, createRaster } from '../raster/raster';

/** What is looked at is averaged down to about this many pixels on its longer side. */
const LOOKED_AT = 420;
/** More of the picture than this is not written on a sheet. */
const MOST_INKED = 0.3;
/** Of what stands out, so much must be of one ink. */
const LEAST_ALIKE = 0.8;

/** What is this far from the ground, code values, and yet is not ink, is a filled shape. */
const FILLED_FROM = 60;
/** Beside the ink, filled shapes may make up so much. */
const MOST_FILLED = 0.1;

/**
 * Whether all that stands out from a light sheet is of one ink, as writing is and most logos are not.
 * @param ground  where the sheet is of one colour: with it, filled shapes wider than any stroke are seen as well
 */
export function isOneInk(raster: Raster, ground: Rgb | null = null): boolean {
  const small = thinOut(raster);
  const paper = measurePaper(small);
  const ink = measureInk(small, paper);
  if (!ink) return false;
  const [d0, d1, d2] = ink.through.map((t) => 1 - t);
  const length = Math.sqrt(d0 * d0 + d1 * d1 + d2 * d2);
  const noise = 3 * paper.noise;
  const least = Math.max(0.35 * length, 2.3 * noise) ** 2;
  const under = new Float32Array(3);
  let [inked, alike, filled] = [0, 0, 0];
  for (let y = 0, s = 0; y < small.height; y++)
    for (let x = 0; x < small.width; x++, s += 4) {
      paperAt(paper, x, y, under);
      const r = 1 - small.data[s] / under[0];
      const g = 1 - small.data[s + 1] / under[1];
      const b = 1 - small.data[s + 2] / under[2];
      const square = r * r + g * g + b * b;
      if (square < least) {
        if (ground && farFrom(small.data, s, ground)) filled++;
        continue;
      }
      inked++;
      const along = (r * d0 + g * d1 + b * d2) / length;
      const across = Math.sqrt(Math.max(0, square - along * along));
      if (along > 0 && across < 0.16 + 0.12 * along + noise) alike++;
    }
  return (
    inked > 8 &&
    inked < MOST_INKED * small.width * small.height &&
    alike > LEAST_ALIKE * inked &&
    filled <= MOST_FILLED * inked
  );
}

const farFrom = (data: Uint8Array, s: number, [r, g, b]: Rgb) =>
  Math.max(Math.abs(data[s] - r), Math.abs(data[s + 1] - g), Math.abs(data[s + 2] - b)) > FILLED_FROM;

function thinOut(raster: Raster): Raster {
  const step = Math.min(16, Math.max(1, Math.ceil(Math.max(raster.width, raster.height) / LOOKED_AT)));
  if (step === 1) return raster;
  const { width, height, planes } = shrink(raster, step);
  const out = createRaster(width, height);
  for (let i = 0, s = 0; i < width * height; i++, s += 4) {
    for (let c = 0; c < 3; c++) out.data[s + c] = Math.round(planes[c][i]);
    out.data[s + 3] = 255;
  }
  return out;
}

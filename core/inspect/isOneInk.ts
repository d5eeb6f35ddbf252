import { measureInk, paperAt } from '../ink/inkColour';
import { measurePaper } from '../ink/paperLight';
import { type Raster, createRaster } from '../raster/raster';

/** What is looked at is thinned out to this many pixels on its longer side. */
const LOOKED_AT = 480;
/** More of the picture than this is not written on a sheet. */
const MOST_INKED = 0.3;
/** Of what stands out, so much must be of one ink. */
const LEAST_ALIKE = 0.8;

/** Whether all that stands out from a light sheet is of one ink, as writing is and most logos are not. */
export function isOneInk(raster: Raster): boolean {
  const small = thinOut(raster);
  const paper = measurePaper(small);
  const ink = measureInk(small, paper);
  if (!ink) return false;
  const depth = ink.through.map((t) => 1 - t);
  const length = Math.hypot(...depth);
  const under = new Float32Array(3);
  let [inked, alike] = [0, 0];
  for (let y = 0, s = 0; y < small.height; y++) for (let x = 0; x < small.width; x++, s += 4) {
    paperAt(paper, x, y, under);
    const seen = [0, 1, 2].map((c) => 1 - small.data[s + c] / under[c]);
    const along = (seen[0] * depth[0] + seen[1] * depth[1] + seen[2] * depth[2]) / length;
    if (Math.hypot(...seen) < 0.35 * length) continue;
    inked++;
    const across = Math.sqrt(Math.max(0, seen[0] ** 2 + seen[1] ** 2 + seen[2] ** 2 - along * along));
    if (along > 0 && across < 0.16 + 0.12 * along + 3 * paper.noise) alike++;
  }
  return inked > 8 && inked < MOST_INKED * small.width * small.height && alike > LEAST_ALIKE * inked;
}

function thinOut(raster: Raster): Raster {
  const step = Math.max(1, Math.ceil(Math.max(raster.width, raster.height) / LOOKED_AT));
  if (step === 1) return raster;
  const out = createRaster(Math.floor(raster.width / step), Math.floor(raster.height / step));
  for (let y = 0, o = 0; y < out.height; y++) for (let x = 0; x < out.width; x++, o += 4) {
    const s = (y * step * raster.width + x * step) * 4;
    for (let c = 0; c < 4; c++) out.data[o + c] = raster.data[s + c];
  }
  return out;
}

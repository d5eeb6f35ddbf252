import type { Artwork } from '../artwork/artwork';
import { withDrawing } from '../artwork/artwork';
import type { Drawing, Shape } from '../artwork/drawing';
import { type Rgb, rgbFromHex } from '../colour/hex';
import { deltaE, oklabFromSrgb } from '../colour/oklab';
import { cutFrom } from '../layers/cutFrom';
import { type PairValue, pairsField } from '../params';
import { type Raster, createRaster } from '../raster/raster';
import { colourCoverage } from '../trace/colourCoverage';
import { findPalette } from '../trace/findPalette';
import { defineFill } from './fill';

/** Nearer than this, OKLab × 100, a colour is the one that is meant. */
const SAME = 7;

/** Flat colours of the master become others, or are taken away; what is not named stays. */
export const byColour = defineFill({
  id: 'byColour',
  title: 'Colour by colour',
  params: { pairs: pairsField({ label: 'Colours', hint: 'Which become which, and which go.' }) },
  describe: ({ pairs }) => (pairs.length === 0 ? 'colour by colour' : pairs.map(wordsOf).join(', ')),
  apply(artwork, { pairs }) {
    if (pairs.length === 0) return artwork;
    if (artwork.drawing) return withDrawing(artwork, changed(artwork.drawing, pairs));
    return { ...artwork, raster: recoloured(artwork, pairs) };
  },
});

const wordsOf = (pair: PairValue) => ('to' in pair ? `${pair.from} in ${pair.to}` : `without ${pair.from}`);
const labOf = (rgb: Rgb) => oklabFromSrgb(...(rgb.map(Math.round) as [number, number, number]));

/** The pair that means a colour; null where none does. */
function pairOf(rgb: Rgb, pairs: readonly PairValue[]): PairValue | null {
  const own = labOf(rgb);
  const [nearest] = pairs
    .map((pair) => ({ pair, off: deltaE(labOf(rgbFromHex(pair.from)), own) }))
    .sort((a, b) => a.off - b.off);
  return nearest && nearest.off < SAME ? nearest.pair : null;
}

/** Every pixel unmixed between the master's flat colours, and mixed anew of what they become. */
function recoloured({ raster }: Artwork, pairs: readonly PairValue[]): Raster {
  const palette = findPalette(raster, null);
  const { planes } = colourCoverage(raster, palette);
  const means = palette.colours.map(({ rgb }) => pairOf(rgb, pairs));
  const own = palette.colours.map(({ rgb }) => rgb);
  const next = means.map((pair) => (pair && 'to' in pair ? rgbFromHex(pair.to) : null));
  const { width, height, data } = raster;
  const out = createRaster(width, height);
  for (let k = 0, p = 0; k < width * height; k++, p += 4) {
    const alpha = data[p + 3];
    if (alpha === 0) continue;
    let [left, r, g, b, named] = [0, 0, 0, 0, 0];
    for (let c = 0; c < planes.length; c++) {
      const share = planes[c][k];
      if (share === 0) continue;
      if (means[c]) named += share;
      if (means[c] && !next[c]) continue;
      const [nr, ng, nb] = next[c] ?? own[c];
      left += share;
      r += share * nr;
      g += share * ng;
      b += share * nb;
    }
    if (named === 0) {
      out.data.set(data.subarray(p, p + 4), p);
      continue;
    }
    if (left === 0) continue;
    out.data[p] = Math.round(r / left);
    out.data[p + 1] = Math.round(g / left);
    out.data[p + 2] = Math.round(b / left);
    out.data[p + 3] = left;
  }
  return out;
}

/** Paints changed; what goes is cut out of everything beneath it, so that it leaves a gap. */
function changed(drawing: Drawing, pairs: readonly PairValue[]): Drawing {
  let shapes: Shape[] = [];
  for (const shape of drawing.shapes) {
    const pair = shape.paint.kind === 'colour' ? pairOf(rgbFromHex(shape.paint.hex), pairs) : null;
    if (!pair) shapes.push(shape);
    else if ('to' in pair) shapes.push({ ...shape, paint: { kind: 'colour', hex: pair.to.toLowerCase() } });
    else shapes = cutFrom(shapes, shape);
  }
  return { ...drawing, shapes: shapes.filter((s) => s.path.verbs !== '') };
}

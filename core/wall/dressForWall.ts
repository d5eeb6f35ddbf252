import type { Artwork } from '../artwork/artwork';
import type { Drawing, Paint } from '../artwork/drawing';
import { hexFromRgb, rgbFromHex } from '../colour/hex';
import { fills } from '../fills';
import { partOf } from '../recipe/recipe';
import { decorate } from '../recipe/runRecipe';
import type { Raster } from '../raster/raster';
import type { WallRule } from './wallRule';

// Rec. 709 weights on code values, which is what "grey" means to whoever prints it beside the colours.
const luma = (r: number, g: number, b: number) => Math.round(0.2126 * r + 0.7152 * g + 0.0722 * b);

/** A mark as a wall shows its marks: as it is, in one colour, or in greys. Paths stay paths. */
export function dressForWall(artwork: Artwork, { dress, colour }: Pick<WallRule, 'dress' | 'colour'>): Artwork {
  if (dress === 'colour') return artwork;
  if (dress === 'greys')
    return { ...artwork, raster: inGreys(artwork.raster), drawing: artwork.drawing && drawingInGreys(artwork.drawing) };
  return decorate(artwork, { fill: partOf(fills, 'oneColour', { colour }), surrounds: [], casts: [] });
}

function inGreys({ width, height, data }: Raster): Raster {
  const out = data.slice();
  for (let k = 0; k < out.length; k += 4) out.fill(luma(data[k], data[k + 1], data[k + 2]), k, k + 3);
  return { width, height, data: out };
}

const greyOf = (hex: string): string => {
  const grey = luma(...(rgbFromHex(hex) as [number, number, number]));
  return hexFromRgb([grey, grey, grey]);
};

const drawingInGreys = (drawing: Drawing): Drawing => ({
  ...drawing,
  shapes: drawing.shapes.map((shape) => ({ ...shape, paint: paintInGreys(shape.paint) })),
});

const paintInGreys = (paint: Paint): Paint =>
  paint.kind === 'colour'
    ? { ...paint, hex: greyOf(paint.hex) }
    : { ...paint, stops: paint.stops.map((s) => ({ ...s, hex: greyOf(s.hex) })) };

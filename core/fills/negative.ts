import { hexFromRgb, rgbFromHex } from '../colour/hex';
import type { Drawing, Paint } from '../artwork/drawing';
import { type Raster, createRaster } from '../raster/raster';
import { defineFill } from './fill';

/** Every colour's opposite. */
export const negative = defineFill({
  id: 'negative',
  title: 'Negative',
  params: {},
  describe: () => 'in opposite colours',
  apply: (artwork) => ({
    ...artwork,
    raster: opposite(artwork.raster),
    drawing: artwork.drawing && oppositePaths(artwork.drawing),
  }),
});

function opposite({ width, height, data }: Raster): Raster {
  const out = createRaster(width, height);
  for (let i = 0; i < data.length; i++) out.data[i] = i % 4 === 3 ? data[i] : 255 - data[i];
  return out;
}

const oppositeHex = (hex: string) => hexFromRgb(rgbFromHex(hex).map((v) => 255 - v));

function oppositePaint(paint: Paint): Paint {
  if (paint.kind === 'colour') return { ...paint, hex: oppositeHex(paint.hex) };
  return { ...paint, stops: paint.stops.map((s) => ({ ...s, hex: oppositeHex(s.hex) })) };
}

const oppositePaths = (drawing: Drawing): Drawing => ({
  ...drawing,
  shapes: drawing.shapes.map((s) => ({ ...s, paint: oppositePaint(s.paint) })),
});

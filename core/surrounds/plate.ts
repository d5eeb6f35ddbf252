import { artworkOfRaster, withDrawing, wholeOf } from '../artwork/artwork';
import type { Drawing, Shape } from '../artwork/drawing';
import { rgbFromHex } from '../colour/hex';
import { colourField } from '../params';
import { type Raster, createRaster } from '../raster/raster';
import { PathBuilder } from '../vector/path';
import { defineSurround } from './surround';

/** A plain rectangle under the whole mark. */
export const plate = defineSurround({
  id: 'plate',
  title: 'Plate',
  params: { colour: colourField({ label: 'Colour', initial: '#ffffff' }) },
  describe: (p) => `on a plate, ${p.colour}`,
  apply(artwork, { colour }) {
    const { drawing } = artwork;
    if (drawing) return withDrawing(artwork, { ...drawing, shapes: [under(drawing, colour), ...drawing.shapes] });
    const raster = onColour(artwork.raster, colour);
    return { ...artworkOfRaster(raster, artwork.reduction), toWorking: artwork.toWorking, within: wholeOf(raster) };
  },
});

function under({ widthPx: w, heightPx: h }: Drawing, hex: string): Shape {
  const path = new PathBuilder().moveTo(0, 0).lineTo(w, 0).lineTo(w, h).lineTo(0, h).close().done();
  return { id: 'plate', path, rule: 'nonzero', paint: { kind: 'colour', hex }, opacity: 1 };
}

function onColour({ width, height, data }: Raster, hex: string): Raster {
  const out = createRaster(width, height);
  const colour = rgbFromHex(hex);
  for (let i = 0; i < data.length; i += 4) {
    for (let c = 0; c < 3; c++)
      out.data[i + c] = Math.round(colour[c] + ((data[i + c] - colour[c]) * data[i + 3]) / 255);
    out.data[i + 3] = 255;
  }
  return out;
}

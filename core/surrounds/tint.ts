import type { Paint } from '../artwork/drawing';
import { type BlendMode, blend, blendModes } from '../colour/blend';
import { type Rgb, hexFromRgb, rgbFromHex } from '../colour/hex';
import { choiceField, colourField, numberField } from '../params';
import { type Raster, createRaster } from '../raster/raster';
import { defineSurround } from './surround';

/** A colour laid over everything that stands there already, its transparency kept. */
export const tint = defineSurround({
  id: 'tint',
  title: 'Tint',
  params: {
    colour: colourField({ label: 'Colour', initial: '#8a8a8a' }),
    opacity: numberField({ label: 'Opacity', initial: 0.3, min: 0, max: 1, step: 0.05 }),
    blend: choiceField({
      label: 'Blend',
      initial: 'normal',
      choices: blendModes.map((value) => ({ value, label: value })),
    }),
  },
  describe: (p) => `tinted ${p.colour}, ${Math.round(p.opacity * 100)} %`,
  apply(artwork, p) {
    const source = rgbFromHex(p.colour);
    const tinted = (rgb: Rgb) => blend(rgb, source, p.blend as BlendMode, p.opacity);
    const hex = (own: string) => hexFromRgb(tinted(rgbFromHex(own)));
    const paint = (own: Paint): Paint =>
      own.kind === 'colour'
        ? { ...own, hex: hex(own.hex) }
        : { ...own, stops: own.stops.map((s) => ({ ...s, hex: hex(s.hex) })) };
    const { drawing } = artwork;
    return {
      ...artwork,
      raster: recoloured(artwork.raster, tinted),
      drawing: drawing && { ...drawing, shapes: drawing.shapes.map((s) => ({ ...s, paint: paint(s.paint) })) },
    };
  },
});

/** Every colour changed, each of them worked out once. */
function recoloured({ width, height, data }: Raster, change: (rgb: Rgb) => Rgb): Raster {
  const out = createRaster(width, height);
  const known = new Map<number, Rgb>();
  for (let p = 0; p < data.length; p += 4) {
    if (data[p + 3] === 0) continue;
    const key = (data[p] << 16) | (data[p + 1] << 8) | data[p + 2];
    let next = known.get(key);
    if (!next) known.set(key, (next = change([data[p], data[p + 1], data[p + 2]])));
    out.data.set(next, p);
    out.data[p + 3] = data[p + 3];
  }
  return out;
}

import { paintAll } from '../artwork/drawing';
import { rgbFromHex } from '../colour/hex';
import { choiceField, colourField } from '../params';
import { type Raster, createRaster } from '../raster/raster';
import { defineFill } from './fill';

/** Every visible pixel, or every shape, in one colour, its transparency kept. */
export const oneColour = defineFill({
  id: 'oneColour',
  title: 'One colour',
  params: {
    colour: colourField({ label: 'Colour', initial: '#000000' }),
    insides: choiceField({
      label: 'Inner light areas',
      initial: 'open',
      hint: 'In one colour a solid white eye would vanish; open keeps it as a gap.',
      choices: [
        { value: 'open', label: 'Open' },
        { value: 'filled', label: 'Filled' },
      ],
    }),
  },
  needsOpenMaster: (p) => p.insides === 'open',
  describe: (p) => `in one colour, ${p.colour}`,
  apply: (artwork, p) => ({
    ...artwork,
    raster: inOneColour(artwork.raster, p.colour),
    drawing: artwork.drawing && paintAll(artwork.drawing, { kind: 'colour', hex: p.colour }),
  }),
});

function inOneColour({ width, height, data }: Raster, hex: string): Raster {
  const [r, g, b] = rgbFromHex(hex);
  const out = createRaster(width, height);
  for (let i = 0; i < out.data.length; i += 4) {
    out.data[i] = r;
    out.data[i + 1] = g;
    out.data[i + 2] = b;
    out.data[i + 3] = data[i + 3];
  }
  return out;
}

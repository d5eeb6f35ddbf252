import { lengthField, lengthPx, lengthWords, unitField } from '../layers/lengths';
import { colourField } from '../params';
import { defineCast } from './cast';
import { castShadow } from './castShadow';
import { ENDS_PATHS, opacityField } from './soft';

/** Light all round the mark, fading out. */
export const glow = defineCast({
  id: 'glow',
  title: 'Glow',
  endsPaths: ENDS_PATHS,
  params: {
    colour: colourField({ label: 'Colour', initial: '#ffffff' }),
    softness: lengthField('Softness', 8, 'Over so long a way it fades out.'),
    opacity: opacityField(0.8),
    unit: unitField,
  },
  describe: (p) => `with a glow of ${lengthWords(p.softness, p.unit)}, ${p.colour}`,
  apply: (artwork, p, ctx) =>
    castShadow(artwork, {
      colour: p.colour,
      dxPx: 0,
      dyPx: 0,
      softnessPx: lengthPx(p.softness, p.unit, ctx),
      opacity: p.opacity,
    }),
});

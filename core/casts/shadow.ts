import { directionOf } from '../geometry/direction';
import { lengthField, lengthPx, lengthWords, unitField } from '../layers/lengths';
import { colourField, numberField } from '../params';
import { defineCast } from './cast';
import { castShadow } from './castShadow';
import { ENDS_PATHS, opacityField } from './soft';

/** A soft shadow beneath the mark, thrown in a direction. */
export const shadow = defineCast({
  id: 'shadow',
  title: 'Shadow',
  endsPaths: ENDS_PATHS,
  params: {
    colour: colourField({ label: 'Colour', initial: '#000000' }),
    angleDeg: numberField({
      label: 'Towards',
      hint: '0° is right, 90° down.',
      initial: 45,
      min: -360,
      max: 360,
      step: 5,
      unit: '°',
    }),
    distance: lengthField('Distance', 3),
    softness: lengthField('Softness', 4, 'Over so long a way it fades out.'),
    opacity: opacityField(0.4),
    unit: unitField,
  },
  describe: (p) =>
    `with a ${p.softness > 0 ? 'soft' : 'hard'} shadow ${whereTo(p.angleDeg)}, ` +
    `${lengthWords(p.distance, p.unit)} off`,
  apply(artwork, p, ctx) {
    const distance = lengthPx(p.distance, p.unit, ctx);
    const [cos, sin] = directionOf(p.angleDeg);
    return castShadow(artwork, {
      colour: p.colour,
      dxPx: distance * cos,
      dyPx: distance * sin,
      softnessPx: lengthPx(p.softness, p.unit, ctx),
      opacity: p.opacity,
    });
  },
});

const WORDS = ['right', 'below right', 'below', 'below left', 'left', 'above left', 'above', 'above right'];

const EIGHTH_DEG = 45;

function whereTo(deg: number): string {
  const eighth = Math.round((((deg % 360) + 360) % 360) / EIGHTH_DEG) % WORDS.length;
  return WORDS[eighth];
}

import { type Fields, initialValues, metaOf } from '../../core/params';
import { type Recipe, initialRecipe, partOf } from '../../core/recipe/recipe';
import { casts } from '../../core/casts';
import { surrounds } from '../../core/surrounds';
import { fills } from '../../core/fills';
import { formats } from '../../core/formats';
import { sizes } from '../../core/sizes';
import { stages } from '../../core/stages';

export type Random = () => number;

const pick = <T>(random: Random, all: readonly T[]): T => all[Math.floor(random() * all.length)];

/** Numbers that loops over pixels like least. */
const nasty = [
  1e308,
  -1e308,
  5e-324,
  -0,
  2 ** 31,
  -(2 ** 31),
  2 ** 32,
  2 ** 53,
  1e6,
  -1e6,
  0.5,
  1e-9,
  4e9,
  65536,
  32767,
];
const junk: readonly unknown[] = [
  null,
  '',
  'x',
  [],
  {},
  true,
  '\u0000',
  '\ud800',
  { x: 1e308, y: 0 },
  [1e308],
  -1,
  NaN,
];

const anyNumber = (random: Random): number =>
  random() < 0.3 ? pick(random, nasty) : (random() - 0.5) * 10 ** Math.floor(random() * 7);
const place = (random: Random) =>
  random() < 0.6 ? { x: random() * 100 - 10, y: random() * 80 - 10 } : { x: anyNumber(random), y: anyNumber(random) };

const convex = (random: Random) => {
  const [x, y, w, h] = [random() * 40, random() * 30, 1 + random() * 60, 1 + random() * 50];
  const far = random() < 0.3 ? 10 ** Math.floor(random() * 7) : 1;
  return [
    { x, y },
    { x: x + w * far, y: y + random() * 4 },
    { x: x + w * far, y: y + h * far },
    { x: x - random() * 3, y: y + h },
  ];
};

const oddLoop = (random: Random, perPoint = 2) =>
  Array.from({ length: perPoint * (1 + Math.floor(random() * 7)) }, (_, k) =>
    perPoint === 3 && k % 3 === 2 ? random() : random() < 0.9 ? random() * 100 - 10 : anyNumber(random),
  );

function oddEdit(random: Random): unknown {
  const kind = pick(random, ['rub', 'back', 'solid', 'open', 'cover', 'recolour', 'melt']);
  if (kind === 'rub' || kind === 'back')
    return { kind, size: random() * 60, hardness: random(), points: oddLoop(random, 3) };
  const colour = pick(random, ['#102030', '#fefefe', null]);
  return kind === 'solid' || kind === 'open'
    ? { kind, points: oddLoop(random) }
    : { kind, points: oddLoop(random), colour };
}

const oddChange = (hex: () => string, random: Random) => ({ from: hex(), to: random() < 0.4 ? null : hex() });

/** A value for a setting: mostly one that its schema takes, at its borders by preference; else anything at all. */
function oddValue(random: Random, fields: Fields, key: string): unknown {
  if (random() < 0.06) return random() < 0.5 ? pick(random, junk) : anyNumber(random);
  const { kind, min = 0, max = 1, choices = [], isOptional } = metaOf(fields[key]);
  const hex = () =>
    `#${Math.floor(random() * 0x1000000)
      .toString(16)
      .padStart(6, '0')}`;
  const made: Record<string, () => unknown> = {
    number: () =>
      isOptional && random() < 0.2
        ? null
        : pick(random, [
            min,
            max,
            (min + max) / 2,
            min + random() * (max - min),
            Math.round(min + random() * (max - min)),
          ]),
    choice: () => pick(random, choices).value,
    flag: () => random() < 0.5,
    colour: hex,
    text: () => pick(random, ['a', 'Å'.repeat(40), '🜁']),
    colours: () => Array.from({ length: Math.floor(random() * 4) }, hex),
    points: () =>
      Array.from({ length: Math.floor(random() * 6) }, () => ({
        ...place(random),
        decision: pick(random, ['open', 'solid']),
      })),
    places: () => Array.from({ length: Math.floor(random() * 4) }, () => place(random)),
    list: () =>
      Array.from({ length: Math.floor(random() * 5) }, () => {
        if (key === 'outside') return oddLoop(random);
        if (key === 'changes') return oddChange(hex, random);
        return key === 'pieces' ? { ...place(random), ...oddChange(hex, random) } : oddEdit(random);
      }),
    stops: () => {
      const stops = Array.from({ length: 1 + Math.floor(random() * 4) }, () => ({ at: random(), colour: hex() }));
      return random() < 0.9 ? stops.sort((a, b) => a.at - b.at) : stops;
    },
    pairs: () =>
      Array.from({ length: Math.floor(random() * 4) }, () =>
        random() < 0.3 ? { from: hex(), clear: true } : { from: hex(), to: hex() },
      ),
    point: () => (random() < 0.2 ? null : place(random)),
    rect: () => {
      const { x, y } = place(random);
      return random() < 0.2 ? null : { x, y, width: 1 + Math.abs(anyNumber(random)), height: 1 + random() * 200 };
    },
    corners: () =>
      random() < 0.3
        ? null
        : random() < 0.8
          ? convex(random)
          : [place(random), place(random), place(random), place(random)],
  };
  return made[kind]();
}

const oddValues = (random: Random, fields: Fields, share: number): Record<string, unknown> => ({
  ...initialValues(fields),
  ...Object.fromEntries(
    Object.keys(fields)
      .filter(() => random() < share)
      .map((key) => [key, oddValue(random, fields, key)]),
  ),
});

/** A part whose lengths are small enough for thousands of them to be made. */
function oddPart(random: Random, registry: typeof surrounds) {
  const definition = pick(random, registry.all);
  const params = oddValues(random, definition.params, 0.25);
  for (const [key, value] of Object.entries(params)) if (Number(value) > 60) params[key] = 12;
  return {
    id: definition.id,
    params: { ...params, ...('unit' in definition.params && random() < 0.9 ? { unit: 'px' } : {}) },
  };
}

/** A recipe as nobody would write it. Some are lawful, and then must run or be refused; the others must be refused. */
export function oddRecipe(random: Random, base: Recipe = initialRecipe()): unknown {
  const settings = stages.all.map((s) => [s.id, { version: s.version, ...oddValues(random, s.params, 0.35) }]);
  const fill = pick(random, fills.all);
  const size = pick(random, sizes.all);
  const format = pick(random, formats.all);
  const recipe: Record<string, unknown> = {
    ...base,
    stages: Object.fromEntries(settings),
    variants: base.variants.map((v) => ({
      ...v,
      fill: { id: fill.id, params: oddValues(random, fill.params, 0.3) },
      surrounds: random() < 0.15 ? [oddPart(random, surrounds)] : [],
      casts: random() < 0.1 ? [oddPart(random, casts)] : [],
    })),
    files: {
      ...base.files,
      lines: base.files.lines.slice(0, 1).map((line) => ({
        ...line,
        size: { id: size.id, params: oddValues(random, size.params, 0.5) },
        format:
          random() < 0.8 ? { id: format.id, params: oddValues(random, format.params, 0.3) } : partOf(formats, 'png'),
      })),
    },
  };
  if (random() < 0.05) recipe[pick(random, ['version', 'stages', 'variants', 'files', 'extra'])] = pick(random, junk);
  return recipe;
}

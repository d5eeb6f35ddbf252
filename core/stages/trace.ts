import { type Artwork, withDrawing } from '../artwork/artwork';
import { type Drawing, placeDrawing } from '../artwork/drawing';
import { rgbFromHex } from '../colour/hex';
import { deltaE, oklabFromSrgb } from '../colour/oklab';
import { type Finding, count } from '../findings/finding';
import { scaling } from '../geometry/matrix';
import { project } from '../geometry/projective';
import { type Values, choiceField, listField, numberField, optionalNumberField } from '../params';
import { MOST_COLOURS } from '../trace/findPalette';
import { plainTrace } from '../trace/traceCoverage';
import { type TraceNumbers, traceNumbers } from '../trace/traceFacts';
import { type TracedMaster, traceMaster } from '../trace/traceMaster';
import { printPath } from '../vector/path';
import { type StageContext, defineStage } from './stage';
import { type TraceFacts, type TracedColour, noTrace } from './traceFacts';

/** A found colour is drawn in another, or left out. */
export interface ColourChange {
  readonly from: string;
  /** null leaves its pieces out. */
  readonly to: string | null;
}

const HEX = /^#[0-9a-f]{6}$/;
const isChange = (v: unknown): v is ColourChange => {
  if (typeof v !== 'object' || v === null) return false;
  const { from, to, ...rest } = v as Record<string, unknown>;
  const isHex = (c: unknown) => typeof c === 'string' && HEX.test(c);
  return isHex(from) && (to === null || isHex(to)) && Object.keys(rest).length === 0;
};

const params = {
  use: choiceField({
    label: 'The master as',
    hint: 'Traced, every file is made of outlines, sharp at any size.',
    initial: 'off',
    choices: [
      { value: 'off', label: 'Pixels' },
      { value: 'all', label: 'Outlines' },
    ],
  }),
  colours: optionalNumberField({
    label: 'Colours',
    hint: 'So many at most; automatic takes the number that stands out.',
    min: 1,
    max: MOST_COLOURS,
    step: 1,
  }),
  tolerance: numberField({
    label: 'Tolerance',
    hint: 'Larger: fewer nodes.',
    initial: plainTrace.tolerancePx,
    min: 0.05,
    max: 5,
    step: 0.05,
    unit: 'px',
  }),
  corner: numberField({
    label: 'Corners from',
    hint: 'A smaller turn is a bend.',
    initial: plainTrace.cornerDeg,
    min: 5,
    max: 120,
    step: 1,
    unit: '°',
  }),
  smallest: numberField({
    label: 'Smallest piece',
    hint: 'Smaller ones are left out.',
    initial: plainTrace.smallestPx,
    min: 0,
    max: 100_000,
    step: 0.5,
    unit: 'px',
  }),
  changes: listField<ColourChange>({
    label: 'Changed colours',
    hint: 'Found colours that are drawn in another, or left out.',
    most: MOST_COLOURS,
    isOne: isChange,
    what: '{ from, to } with colours such as #1a2b3c, to null for none',
  }),
};
export type TraceValues = Values<typeof params>;

/** Outlines of the master in one colour or a few flat ones. Artwork that is paths already goes through as it is. */
export const trace = defineStage({
  id: 'trace',
  version: 1,
  title: 'Trace',
  keeps: 'paths',
  params,
  run(input, p, ctx) {
    if (input.drawing) return { artwork: input, findings: [], facts: noTrace('paths') };
    if (p.use === 'off') return { artwork: input, findings: [], facts: noTrace('off') };
    return traced(input, p, ctx);
  },
});

function traced(input: Artwork, p: TraceValues, ctx: StageContext) {
  const { reduction, raster } = input;
  ctx.onStep('trace: colours');
  const result = traceMaster(
    raster,
    {
      tolerancePx: p.tolerance / reduction,
      cornerDeg: p.corner,
      smallestPx: p.smallest / (reduction * reduction),
      colours: p.colours === null ? null : Math.round(p.colours),
    },
    () => ctx.onStep('trace: outlines'),
  );
  const colours = colourFacts(result, p, reduction);
  const grown = placeDrawing(result.drawing, scaling(reduction), raster.width * reduction, raster.height * reduction);
  const drawing: Drawing = {
    ...grown,
    shapes: grown.shapes.flatMap((shape, k) =>
      colours[k].isDropped
        ? []
        : [colours[k].hex === colours[k].found ? shape : { ...shape, paint: paintOf(colours[k].hex) }],
    ),
  };
  const artwork = withDrawing(input, drawing);
  if (ctx.pictureOnly) return { artwork, findings: [], facts: noTrace('traced') };
  ctx.onStep('trace: numbers');
  const numbers = traceNumbers(raster, result);
  const facts = factsOf(input, result, { colours, numbers, drawing });
  return { artwork, findings: findingsOf(input, numbers), facts };
}

const paintOf = (hex: string) => ({ kind: 'colour' as const, hex });

/** Nearer than this a change still means the colour found, OKLab × 100: it may shift a little with other settings. */
const SAME = 4;

function colourFacts({ layers }: TracedMaster, { changes }: TraceValues, reduction: number): TracedColour[] {
  const lab = (hex: string) => oklabFromSrgb(...rgbFromHex(hex));
  return layers.map(({ hex, areaPx, traced: { nodes } }) => {
    const own = changes
      .map((change) => ({ change, off: deltaE(lab(change.from), lab(hex)) }))
      .filter(({ off }) => off < SAME)
      .sort((a, b) => a.off - b.off)[0]?.change;
    return {
      found: hex,
      hex: own?.to ?? hex,
      areaPx: Math.round(areaPx * reduction * reduction),
      nodes,
      isDropped: own?.to === null,
    };
  });
}

interface Outcome {
  readonly colours: readonly TracedColour[];
  readonly numbers: TraceNumbers;
  readonly drawing: Drawing;
}

function factsOf(input: Artwork, result: TracedMaster, { colours, numbers, drawing }: Outcome): TraceFacts {
  const { reduction: r, toWorking } = input;
  const at = (place: { x: number; y: number } | null | undefined) =>
    place ? project(toWorking, place.x, place.y) : null;
  return {
    state: 'traced',
    colours,
    nodes: numbers.nodes,
    pieces: numbers.pieces,
    meanDeviationPx: numbers.meanDeviationPx * r,
    largestDeviationPx: numbers.largestDeviationPx * r,
    largestAt: at(numbers.deviation.place),
    thinnestPx: numbers.strokes && numbers.strokes.thinnestPx * r,
    medianStrokePx: numbers.strokes && numbers.strokes.medianPx * r,
    thinnestAt: at(numbers.strokes?.place),
    counts: result.palette.counts,
    steady: result.palette.steady,
    outlines: drawing.shapes.map((shape) => printPath(shape.path, 2)).join(''),
  };
}

function findingsOf(input: Artwork, { deviation, largestDeviationPx }: TraceNumbers): Finding[] {
  const { trouble } = deviation;
  if (trouble.length === 0) return [];
  const most = (largestDeviationPx * input.reduction).toFixed(1);
  return [
    {
      id: 'outline-off',
      stage: 'trace',
      weight: 'risk',
      title: count(trouble.length, 'place off its outline', 'places off their outline'),
      detail: `There the outline is more than half a pixel from the master, ${most} px at most.`,
      places: trouble.map(({ x, y }) => project(input.toWorking, x, y)),
      fixes: [],
    },
  ];
}

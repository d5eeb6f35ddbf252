import { type Artwork, withDrawing } from '../artwork/artwork';
import { solidArtwork } from '../artwork/inkPlanes';
import { type Drawing, type Shape, placeDrawing } from '../artwork/drawing';
import { rgbFromHex } from '../colour/hex';
import { deltaE, oklabFromSrgb } from '../colour/oklab';
import { type Finding, count } from '../findings/finding';
import { scaling } from '../geometry/matrix';
import { invertProjective, project } from '../geometry/projective';
import { type Values, choiceField, listField, numberField, optionalNumberField } from '../params';
import { MOST_COLOURS } from '../trace/findPalette';
import { toleranceCurve } from '../trace/toleranceCurve';
import { plainTrace } from '../trace/traceCoverage';
import { type TracedPiece, colourRound, pieceAt, tracedPieces } from '../trace/tracedPieces';
import { type TraceNumbers, traceNumbers } from '../trace/traceFacts';
import { type TracedMaster, traceMaster } from '../trace/traceMaster';
import { joinPaths, printPath, transformPath } from '../vector/path';
import { type StageContext, defineStage } from './stage';
import { type PieceOfTrace, type TraceFacts, type TracedColour, noTrace } from './traceFacts';

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

/** One piece is drawn in another colour, or left out; known again by its colour and a place inside it. */
export interface PieceChange {
  /** Working-picture pixels. */
  readonly x: number;
  readonly y: number;
  readonly from: string;
  readonly to: string | null;
}

const isPieceChange = (v: unknown): v is PieceChange => {
  if (typeof v !== 'object' || v === null) return false;
  const { x, y, ...rest } = v as Record<string, unknown>;
  return Number.isFinite(x) && Number.isFinite(y) && isChange(rest);
};

const MOST_PIECES_CHANGED = 2000;

const params = {
  use: choiceField({
    label: 'The master as',
    hint: 'Outlines are sharp at any size; for vector files alone, files of pixels stay as they are.',
    initial: 'off',
    choices: [
      { value: 'off', label: 'Pixels' },
      { value: 'vector', label: 'Outlines for vector files' },
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
  pieces: listField<PieceChange>({
    label: 'Changed pieces',
    hint: 'Single pieces that are drawn in another colour, or left out.',
    most: MOST_PIECES_CHANGED,
    isOne: isPieceChange,
    what: '{ x, y, from, to }: a place in the piece, its colour, and another or null for none',
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
    const { ink } = input;
    // Outlines run where the pen went, however much ink it left there.
    const result = traced(solidArtwork(input), p, ctx);
    return p.use === 'vector' && ink ? { ...result, artwork: { ...result.artwork, raster: input.raster } } : result;
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
    (share) => ctx.onStep('trace: outlines', share),
  );
  const colours = colourFacts(result, p, reduction);
  const pieces = tracedPieces(result.layers);
  const changes = changesOf(pieces, result, p, input);
  const drawn = drawPieces(result, colours, pieces, changes);
  const drawing = placeDrawing(drawn, scaling(reduction), raster.width * reduction, raster.height * reduction);
  // For vector files alone the outlines go along, and everything else stays pixels.
  const artwork = p.use === 'vector' ? { ...input, outlines: drawing } : withDrawing(input, drawing);
  if (ctx.pictureOnly) return { artwork, findings: [], facts: noTrace('traced') };
  ctx.onStep('trace: numbers');
  const numbers = traceNumbers(raster, result);
  ctx.onStep('trace: tolerances');
  const byTolerance = toleranceCurve(result.layers, p.corner, reduction);
  const facts = factsOf(input, result, { colours, numbers, pieces, changes, byTolerance });
  return { artwork, findings: findingsOf(input, numbers), facts };
}

type Changes = ReadonlyMap<TracedPiece, PieceChange>;

/** Which pieces were meant by what was changed: of the colour, at the place. */
function changesOf(
  pieces: readonly TracedPiece[],
  { layers }: TracedMaster,
  { pieces: wanted }: TraceValues,
  { toWorking }: Artwork,
): Changes {
  const found = new Map<TracedPiece, PieceChange>();
  if (wanted.length === 0) return found;
  const back = invertProjective(toWorking);
  for (const change of wanted) {
    const from = labOf(change.from);
    const offs = layers.map(({ hex }) => deltaE(labOf(hex), from));
    const meant = offs.indexOf(Math.min(...offs));
    const alike = pieces.filter(({ layer }) => layer === meant && offs[meant] < SAME);
    const piece = pieceAt(alike, project(back, change.x, change.y));
    if (piece) found.set(piece, change);
  }
  return found;
}

/** One shape a colour, and above it the pieces of it that are drawn in others. */
function drawPieces(
  { drawing, layers }: TracedMaster,
  colours: readonly TracedColour[],
  pieces: readonly TracedPiece[],
  changes: Changes,
): Drawing {
  const shapes = drawing.shapes.flatMap((shape, k): Shape[] => {
    const { hex, found, isDropped } = colours[k];
    const paint = hex === found ? layers[k].paint : paintOf(hex);
    const own = pieces.filter((piece) => piece.layer === k);
    const changed = own.filter((piece) => changes.has(piece));
    if (changed.length === 0) return isDropped ? [] : [{ ...shape, paint }];
    const rest = isDropped ? [] : own.filter((piece) => !changes.has(piece));
    const byHex = new Map<string, TracedPiece[]>();
    for (const piece of changed) {
      const to = changes.get(piece)?.to ?? null;
      if (to !== null) byHex.set(to, [...(byHex.get(to) ?? []), piece]);
    }
    return [
      ...(rest.length > 0 ? [{ ...shape, path: joinPaths(rest.map((piece) => piece.path)), paint }] : []),
      ...[...byHex].map(([to, some], n) => ({
        ...shape,
        id: `${shape.id}-${n + 1}`,
        path: joinPaths(some.map((piece) => piece.path)),
        paint: paintOf(to),
      })),
    ];
  });
  return { ...drawing, shapes };
}

const labOf = (hex: string) => oklabFromSrgb(...rgbFromHex(hex));
const paintOf = (hex: string) => ({ kind: 'colour' as const, hex });

/**
 * A change means the colour found that is nearest to it, up to this far, OKLab × 100: what is found shifts a little
 * with the picture's size and with other settings.
 */
const SAME = 12;

/** For every colour found the change that means it. */
function changesByLayer(
  layers: TracedMaster['layers'],
  changes: readonly ColourChange[],
): (ColourChange | undefined)[] {
  const means = layers.map((): { change?: ColourChange; off: number } => ({ off: SAME }));
  for (const change of changes) {
    const from = labOf(change.from);
    const offs = layers.map(({ hex }) => deltaE(from, labOf(hex)));
    const nearest = offs.indexOf(Math.min(...offs));
    if (nearest >= 0 && offs[nearest] < means[nearest].off) means[nearest] = { change, off: offs[nearest] };
  }
  return means.map(({ change }) => change);
}

function colourFacts({ layers }: TracedMaster, { changes }: TraceValues, reduction: number): TracedColour[] {
  const means = changesByLayer(layers, changes);
  return layers.map(({ hex, areaPx, traced: { nodes } }, k) => {
    const own = means[k];
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
  readonly pieces: readonly TracedPiece[];
  readonly changes: Changes;
  readonly byTolerance: TraceFacts['byTolerance'];
}

/** Of very many pieces only so many are told of one by one. */
const MOST_TOLD = 3000;
/** What lies round a piece is looked up for pieces smaller than this share of the picture. */
const BESIDE_SHARE = 0.02;

function factsOf(input: Artwork, result: TracedMaster, outcome: Outcome): TraceFacts {
  const { colours, numbers, pieces, changes, byTolerance } = outcome;
  const { reduction: r, toWorking, raster } = input;
  const at = (place: { x: number; y: number } | null | undefined) =>
    place ? project(toWorking, place.x, place.y) : null;
  const most = raster.width * raster.height * BESIDE_SHARE;
  const told = pieces.slice(0, MOST_TOLD).map((piece): PieceOfTrace => {
    const change = changes.get(piece);
    const colour = colours[piece.layer];
    const to = change ? change.to : colour.isDropped ? null : colour.hex;
    const { x, y, width, height } = piece.box;
    return {
      found: colour.found,
      hex: to ?? colour.hex,
      isDropped: to === null,
      isChanged: change !== undefined,
      areaPx: piece.areaPx * r * r,
      ...project(toWorking, piece.at.x, piece.at.y),
      box: { x: x * r, y: y * r, width: width * r, height: height * r },
      beside: piece.areaPx < most ? colourRound(raster, result.layers, piece) : null,
      d: printPath(transformPath(piece.path, scaling(r)), 2),
    };
  });
  return {
    state: 'traced',
    colours,
    nodes: numbers.nodes,
    pieces: told,
    pieceCount: pieces.length,
    meanDeviationPx: numbers.meanDeviationPx * r,
    largestDeviationPx: numbers.largestDeviationPx * r,
    largestAt: at(numbers.deviation.place),
    thinnestPx: numbers.strokes && numbers.strokes.thinnestPx * r,
    medianStrokePx: numbers.strokes && numbers.strokes.medianPx * r,
    thinnestAt: at(numbers.strokes?.place),
    counts: result.palette.counts,
    steady: result.palette.steady,
    byTolerance,
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

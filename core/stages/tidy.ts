import { type Artwork, withDrawing } from '../artwork/artwork';
import { followInk } from '../artwork/inkPlanes';
import type { Shape } from '../artwork/drawing';
import { hexFromRgb } from '../colour/hex';
import { type Finding, count } from '../findings/finding';
import { type Point, invertProjective, project } from '../geometry/projective';
import { type RectPx, type Values, listField, numberField, placesField } from '../params';
import { findExtents } from '../raster/extents';
import type { Raster } from '../raster/raster';
import { applyEdits, pieceAt } from '../tidy/applyEdits';
import { coverLoops } from '../tidy/coverage';
import { type Edit, isEdit, isLoop } from '../tidy/edits';
import { type Piece, type Pieces, distanceFromMain, findPieces, proposeLimit } from '../tidy/pieces';
import { boundsOfPath } from '../vector/path';
import { type StageContext, defineStage } from './stage';
import { MOST_CHARTED, MOST_PIECES, type PieceFact, type TidyFacts, type Treatment } from './tidyFacts';

const MOST_EDITS = 1000;
const MOST_PLACES = 1000;
const MOST_LOOPS = 20;
export const MOST_SPECK_PX = 100_000;

const params = {
  specksBelow: numberField({
    label: 'Drop specks below',
    hint: 'Pieces of less area go; 0 keeps all.',
    option: 'specks-below',
    initial: 0,
    min: 0,
    max: MOST_SPECK_PX,
    step: 1,
    unit: 'px',
  }),
  drop: placesField({ label: 'Dropped pieces', hint: 'The pieces at these places go.', most: MOST_PLACES }),
  keep: placesField({
    label: 'Kept pieces',
    hint: 'The pieces at these places stay, however small.',
    most: MOST_PLACES,
  }),
  outside: listField<number[]>({
    label: 'Outlines to keep',
    hint: 'What lies outside of all of them goes.',
    most: MOST_LOOPS,
    isOne: isLoop,
    what: '[x, y, x, y, …] of at least three points',
  }),
  edits: listField<Edit>({
    label: 'Strokes and outlines',
    hint: 'One after another.',
    most: MOST_EDITS,
    isOne: isEdit,
    what: '{ kind, points, … }',
  }),
};
export type TidyValues = Values<typeof params>;

const isIdle = (p: TidyValues) =>
  p.specksBelow === 0 && [p.drop, p.keep, p.outside, p.edits].every((list) => list.length === 0);

const isOfShapes = (p: TidyValues) => p.outside.length === 0 && p.edits.every((e) => e.kind === 'recolour');

/** What the computation cannot know, said by hand: pieces that go or stay, strokes, outlines, covered areas. */
export const tidy = defineStage({
  id: 'tidy',
  version: 1,
  title: 'Tidy',
  // Whole shapes of a drawing go, stay or take another colour; what a brush or outline cuts is pixels.
  keeps: (p: TidyValues) => (isOfShapes(p) ? 'paths' : 'pixels'),
  needsOriginal: (p: TidyValues) => p.edits.some((e) => e.kind === 'solid' || e.kind === 'open'),
  params,
  run(input, p, ctx) {
    if (isIdle(p) && ctx.pictureOnly) return { artwork: input, findings: [], facts: {} as TidyFacts };
    if (input.drawing && isOfShapes(p)) return tidyShapes(input, p, ctx);
    return tidyPixels(input, p, ctx);
  },
});

interface Listed {
  readonly area: number;
  readonly place: Point;
  readonly peak: number;
  readonly colour: string | null;
  readonly box: RectPx;
  readonly treatment: Treatment;
}

const isKept = ({ treatment }: Pick<Listed, 'treatment'>) => treatment === 'kept';

function tidyPixels(input: Artwork, p: TidyValues, ctx: StageContext) {
  const onto = invertProjective(input.toWorking);
  const isEdited = p.edits.length > 0 || p.outside.length > 0;
  const mustOwn = isEdited || p.specksBelow > 0 || p.drop.length > 0;
  const raster = mustOwn ? { ...input.raster, data: input.raster.data.slice() } : input.raster;
  let { within } = input;
  const before = findExtents(input.raster, undefined, input.within);
  // It takes as long as finding the pieces once more, which a brush on a large picture would wait for.
  const taken = isEdited && ctx.listsAll ? takenFrom(input) : null;
  if (p.edits.length > 0) {
    ctx.onStep('tidy: strokes and outlines');
    const original = sameGrid(ctx.cut?.original.raster, raster);
    const opened = () => sameGrid(ctx.cut?.opened().raster, raster) ?? input.raster;
    within = applyEdits({ raster, cutOut: input.raster, within, original, opened, onto }, p.edits);
  }
  const erased = taken?.(raster, 'erased') ?? [];
  if (p.outside.length > 0) keepInside(raster, within, coverLoops(p.outside, onto, raster));
  const outside = taken?.(raster, 'outside') ?? [];
  ctx.onStep('tidy: pieces');
  const found = findPieces(raster, within);
  const treated = treat(found, p, input, onto);
  const dropped = new Set(found.pieces.filter((_, k) => treated[k] !== 'kept').map((piece) => piece.label));
  if (dropped.size > 0) clearPieces(raster, found, dropped);
  const listed = found.pieces.map((piece, k) => listedOf(piece, treated[k]));
  const after = mustOwn ? findExtents(raster, undefined, within) : before;
  const ink = mustOwn && input.ink ? followInk(input.ink, input.raster, raster) : input.ink;
  const artwork: Artwork = mustOwn ? { ...input, raster, drawing: null, within, ...(ink && { ink }) } : input;
  return finish(artwork, { listed, gone: [...erased, ...outside] }, p, { before, after }, ctx);
}

const listedOf = (piece: Piece, treatment: Treatment): Listed => ({
  area: piece.area,
  place: { x: piece.x + 0.5, y: piece.y + 0.5 },
  peak: piece.peak / 255,
  colour: hexFromRgb(piece.colour),
  box: piece.box,
  treatment,
});

/**
 * Finds the pieces that steps by hand clear wholly.
 * @returns a function that takes the picture after a step and gives the pieces that this step cleared
 */
function takenFrom({ raster: before, within }: Artwork): (after: Raster, how: Treatment) => Listed[] {
  const found = findPieces(before, within);
  let left = found.pieces;
  return (after, how) => {
    const seen = new Uint8Array(found.pieces.length + 1);
    for (let y = 0, k = 0; y < within.height; y++)
      for (let x = 0, i = ((within.y + y) * after.width + within.x) * 4 + 3; x < within.width; x++, k++, i += 4)
        if (after.data[i] > 0) seen[found.labels[k]] = 1;
    const gone = left.filter(({ label }) => seen[label] === 0);
    left = left.filter(({ label }) => seen[label] === 1);
    return gone.map((piece) => listedOf(piece, how));
  };
}

const sameGrid = (other: Raster | undefined, { width, height }: Raster): Raster | null =>
  other && other.width === width && other.height === height ? other : null;

/** What becomes of each piece: the small ones and those pressed go, but none that is to be kept. */
function treat(
  found: Pieces,
  p: TidyValues,
  { reduction }: Artwork,
  onto: ReturnType<typeof invertProjective>,
): Treatment[] {
  const labelsAt = (places: readonly Point[]) =>
    new Set(places.map((place) => pieceAt(found, project(onto, place.x, place.y))));
  const [drop, keep] = [labelsAt(p.drop), labelsAt(p.keep)];
  const isSpeck = (piece: Piece) => piece.area * reduction * reduction < p.specksBelow;
  return found.pieces.map((piece) => {
    if (keep.has(piece.label)) return 'kept';
    return drop.has(piece.label) ? 'dropped' : isSpeck(piece) ? 'speck' : 'kept';
  });
}

function clearPieces(raster: Raster, { labels, within }: Pieces, dropped: ReadonlySet<number>): void {
  for (let y = 0, k = 0; y < within.height; y++)
    for (let x = 0; x < within.width; x++, k++)
      if (labels[k] > 0 && dropped.has(labels[k]))
        raster.data.fill(
          0,
          ((within.y + y) * raster.width + within.x + x) * 4,
          ((within.y + y) * raster.width + within.x + x) * 4 + 4,
        );
}

/** Takes away what lies outside, pixel by pixel: half of a pixel on the outline stays half. */
function keepInside({ width, data }: Raster, within: RectPx, covered: ReturnType<typeof coverLoops>): void {
  const shareAt = (x: number, y: number) => {
    if (!covered) return 0;
    const [cx, cy] = [x - covered.box.x, y - covered.box.y];
    if (cx < 0 || cy < 0 || cx >= covered.box.width || cy >= covered.box.height) return 0;
    return covered.share[cy * covered.box.width + cx];
  };
  for (let y = within.y; y < within.y + within.height; y++) {
    for (let x = within.x; x < within.x + within.width; x++) {
      const i = (y * width + x) * 4 + 3;
      if (data[i] > 0) data[i] = Math.round((data[i] * shareAt(x, y)) / 255);
    }
  }
}

/** A drawing's pieces are its shapes: those that go are left out, the others stay as they were drawn. */
function tidyShapes(input: Artwork, p: TidyValues, ctx: StageContext) {
  const drawing = input.drawing as NonNullable<Artwork['drawing']>;
  const onto = invertProjective(input.toWorking);
  // Pixels tell how much of a shape is seen and where; each shape is looked at by its own box.
  const r = input.reduction;
  const shapes = drawing.shapes.flatMap((shape) => {
    const box = boundsOfPath(shape.path);
    return box ? [{ shape, box: scaled(box, 1 / r) }] : [];
  });
  const isIn = (box: RectPx, place: Point) => {
    const at = project(onto, place.x, place.y);
    return at.x >= box.x && at.y >= box.y && at.x <= box.x + box.width && at.y <= box.y + box.height;
  };
  // Of several shapes at a place the smallest is meant.
  const named = (places: readonly Point[]) =>
    new Set(
      places.map((place) => {
        const there = shapes.filter(({ box }) => isIn(box, place));
        return there.reduce<Shape | null>(
          (best, s) => (best && areaOf(best) <= areaOf(s.shape) ? best : s.shape),
          null,
        );
      }),
    );
  const [drop, keep] = [named(p.drop), named(p.keep)];
  const treatmentOf = (shape: Shape): Treatment => {
    if (keep.has(shape)) return 'kept';
    return drop.has(shape) ? 'dropped' : areaOf(shape) < p.specksBelow ? 'speck' : 'kept';
  };
  const painted = new Map<Shape, string>();
  for (const edit of p.edits) {
    if (edit.kind !== 'recolour') continue;
    const places = Array.from({ length: edit.points.length / 2 }, (_, k) => ({
      x: edit.points[2 * k],
      y: edit.points[2 * k + 1],
    }));
    for (const shape of named(places)) if (shape) painted.set(shape, edit.colour);
  }
  const listed: Listed[] = shapes.map(({ shape, box }) => ({
    area: areaOf(shape) / (r * r),
    place: { x: box.x + box.width / 2, y: box.y + box.height / 2 },
    peak: shape.opacity,
    colour: painted.get(shape) ?? (shape.paint.kind === 'colour' ? shape.paint.hex : null),
    box,
    treatment: treatmentOf(shape),
  }));
  const kept = drawing.shapes.flatMap((shape) => {
    if (treatmentOf(shape) !== 'kept') return [];
    const hex = painted.get(shape);
    return [hex === undefined ? shape : { ...shape, paint: { kind: 'colour' as const, hex } }];
  });
  const artwork =
    kept.every((shape, k) => shape === drawing.shapes[k]) && kept.length === drawing.shapes.length
      ? input
      : withDrawing(input, { ...drawing, shapes: kept });
  const extents = {
    before: findExtents(input.raster, undefined, input.within),
    after: findExtents(artwork.raster, undefined, artwork.within),
  };
  const result = finish(artwork, { listed, gone: [] }, p, extents, ctx);
  const behind = findBacking(input, listed, p);
  return behind ? { ...result, findings: [behind, ...result.findings] } : result;
}

/** A shape that covers so much of the page both ways lies behind the mark. */
const BACKING_SHARE = 0.97;
/** How far inside the page its corners are looked at, share of its shorter side. */
const CORNER_SHARE = 0.01;

/** A box behind a whole drawing, such as a white page, which is offered to be left out. */
function findBacking({ raster, toWorking }: Artwork, listed: readonly Listed[], p: TidyValues): Finding | null {
  const [backing, ...others] = listed;
  if (!backing || !isKept(backing) || others.length === 0) return null;
  const { x, y, width, height } = backing.box;
  if (width < raster.width * BACKING_SHARE || height < raster.height * BACKING_SHARE) return null;
  const inset = Math.min(width, height) * CORNER_SHARE;
  const corners = [
    { x: x + inset, y: y + inset },
    { x: x + width - inset, y: y + inset },
    { x: x + inset, y: y + height - inset },
    { x: x + width - inset, y: y + height - inset },
  ];
  const isFree = (c: Point) =>
    others.every(({ box: b }) => c.x < b.x || c.y < b.y || c.x > b.x + b.width || c.y > b.y + b.height);
  const corner = corners.find(isFree);
  // Where all corners are taken it is no box behind something, but a frame of the mark.
  if (!corner) return null;
  const place = project(toWorking, corner.x, corner.y);
  return {
    id: 'backing-shape',
    stage: 'tidy',
    weight: 'risk',
    title: 'a box behind the mark',
    detail: 'A shape as large as the page lies behind everything: on a photo it would show as a box.',
    places: [place],
    fixes: [{ label: 'Leave it out', change: { drop: [...p.drop, place] } }],
  };
}

const scaled = (b: RectPx, by: number): RectPx => ({
  x: b.x * by,
  y: b.y * by,
  width: b.width * by,
  height: b.height * by,
});

/** A shape's area as large as its outline's box: exact enough to tell specks from marks. */
function areaOf(shape: Shape): number {
  const box = boundsOfPath(shape.path);
  return box ? box.width * box.height * shape.opacity : 0;
}

function finish(
  artwork: Artwork,
  { listed, gone }: { listed: readonly Listed[]; gone: readonly Listed[] },
  p: TidyValues,
  extents: { before: RectPx | null; after: RectPx | null },
  { listsAll }: StageContext,
) {
  const r2 = artwork.reduction * artwork.reduction;
  const distance = distanceFromMain(listed);
  const toWorking = (place: Point) => project(artwork.toWorking, place.x, place.y);
  const factOf = (l: Listed): PieceFact => ({
    ...toWorking(l.place),
    areaPx: Math.round(l.area * r2 * 100) / 100,
    peak: l.peak,
    colour: l.colour,
    box: boxToWorking(artwork, l.box),
    distancePx: Math.round(distance(l) * artwork.reduction * 10) / 10,
    dropped: !isKept(l),
    treatment: l.treatment,
  });
  const largest = (list: readonly Listed[]) =>
    [...list].sort((a, b) => b.area - a.area).slice(0, listsAll ? list.length : MOST_PIECES);
  const areas = listed.map((l) => l.area * r2).sort((a, b) => a - b);
  const proposal = proposeLimit(areas);
  // A picture of noise has a piece a pixel: a chart needs no more than so many of them, and the largest.
  const charted = areas.length > MOST_CHARTED ? [...areas.slice(0, MOST_CHARTED), ...areas.slice(-1)] : areas;
  const kept = listed.filter(isKept);
  const stretchers = extents.before ? stretching(kept, proposal.limit / r2).map((l) => toWorking(l.place)) : [];
  const tidyFacts: TidyFacts = {
    pieces: largest(listed).map(factOf),
    pieceCount: listed.length,
    droppedCount: listed.length - kept.length,
    gone: largest(gone).map(factOf),
    areas: charted,
    proposal,
    extents: {
      before: extents.before && boxToWorking(artwork, extents.before),
      after: extents.after && boxToWorking(artwork, extents.after),
    },
    framed: {
      before: extents.before && scaled(extents.before, artwork.reduction),
      after: extents.after && scaled(extents.after, artwork.reduction),
    },
    stretchers,
  };
  return { artwork, facts: tidyFacts, findings: findingsOf(tidyFacts, kept, p, toWorking, r2) };
}

/** The smallest upright rectangle in the working picture that holds a box of the artwork. */
function boxToWorking({ toWorking }: Artwork, b: RectPx): RectPx {
  const corners = [
    project(toWorking, b.x, b.y),
    project(toWorking, b.x + b.width, b.y),
    project(toWorking, b.x, b.y + b.height),
    project(toWorking, b.x + b.width, b.y + b.height),
  ];
  const x = Math.min(...corners.map((c) => c.x));
  const y = Math.min(...corners.map((c) => c.y));
  return { x, y, width: Math.max(...corners.map((c) => c.x)) - x, height: Math.max(...corners.map((c) => c.y)) - y };
}

/** Specks that reach beyond everything that is none. */
function stretching(kept: readonly Listed[], limit: number): Listed[] {
  const mark = kept.filter((l) => l.area >= limit);
  if (mark.length === 0) return [];
  // Not by Math.min of all at once: a picture of noise has more pieces than a call takes arguments.
  const least = (of: (b: RectPx) => number) => mark.reduce((v, l) => Math.min(v, of(l.box)), Infinity);
  const left = least((b) => b.x);
  const top = least((b) => b.y);
  const right = -least((b) => -b.x - b.width);
  const bottom = -least((b) => -b.y - b.height);
  return kept.filter(
    ({ area, box: b }) => area < limit && (b.x < left || b.y < top || b.x + b.width > right || b.y + b.height > bottom),
  );
}

/** Of less than this in all, full-size px, nobody sees anything, unless it widens the extents. */
const LEAST_SEEN_PX = 0.5;

function findingsOf(
  facts: TidyFacts,
  kept: readonly Listed[],
  p: TidyValues,
  toWorking: (place: Point) => Point,
  r2: number,
): Finding[] {
  const { limit } = facts.proposal;
  // All that the remedy takes are counted; that one of them is seen is the reason to speak.
  const specks = kept.filter((l) => l.area * r2 < limit);
  const isSeen = facts.stretchers.length > 0 || specks.some((l) => l.area * r2 >= LEAST_SEEN_PX);
  if (limit <= p.specksBelow || !isSeen) return [];
  const places = [...specks].sort((a, b) => a.peak - b.peak).map((l) => toWorking(l.place));
  const wide = facts.stretchers.length > 0 ? ' They widen the file’s extents.' : '';
  return [
    {
      id: 'specks-apart',
      stage: 'tidy',
      weight: facts.stretchers.length > 0 ? 'risk' : 'note',
      title: count(specks.length, 'speck beside the mark', 'specks beside the mark'),
      detail: `${count(specks.length, 'piece')} far smaller than anything of the mark.${wide}`,
      places,
      fixes: [{ label: `Drop ${specks.length === 1 ? 'it' : 'them'}`, change: { specksBelow: limit } }],
    },
  ];
}

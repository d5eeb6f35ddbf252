import { LEAST_LETTERS, findLettering, varyAsLetters } from './lettering';
import type { AreaShape, Judgement } from './judgeArea';
import type { Nesting, Piece, Sides } from './nesting';

/** An area as it was judged by itself and with its like. */
export interface JudgedArea extends Sides {
  readonly label: number;
  readonly areaPx: number;
  readonly shape: AreaShape;
  /** Pixels to whatever comes next on straight ways out of it, sorted. */
  readonly walls: readonly number[];
  readonly judgement: Judgement;
}

/** What a question is about: areas with one question get one answer. */
export interface Question {
  readonly key: string;
  readonly about: 'lettering' | 'figure' | 'outlined' | 'ring' | 'area';
}

/** What becomes of an area, and which question it is part of. */
export interface Settled extends Judgement {
  readonly question: Question | null;
}

/** What is only known by asking: below the limit from which an area counts as unsure. */
const ASKED = 0.6;
/** What belongs to lettering or lies inside something solid follows for sure. */
const FOLLOWS = 0.95;

/** A hole that takes up more of its letter than this is no counter; less than that, no counter either. */
const MOST_COUNTER = 0.72;
/** An outline's stroke against the letter's height, and how much of the letter it encloses. */
const MOST_OUTLINE = 0.14;
const LEAST_ENCLOSED = 0.12;
/** Of an even stroke seven tenths are no wider than so many times its thin part. */
const EVEN = 1.6;
/** So many of a line's letters are drawn by an outline when all are. */
const OUTLINED_SHARE = 0.75;

/** Strokes of letters knocked out of a plate: half their width against their height. */
const MOST_STROKE = 0.36;
/** Letters fill their boxes less than bars and panes do. */
const MOST_BOX_FILL = 0.8;

/** A plate is mostly paint, its walls uneven, and its outline fills its convex hull. */
const LEAST_PAINT = 0.45;
const UNEVEN = 2.5;
const WIDER = 1.5;
const LEAST_SIMPLE = 0.85;
/** Even walls are a plate's in a simple shape that is nearly all paint: bars, windows, dots. */
const HARDLY_EVEN = 1.6;
const SIMPLE = 0.95;
const MOSTLY_PAINT = 0.6;
/** In a simple shape a single judgement must be this certain to stand. */
const LEAST_TRUSTED = 0.9;
const LEAST_SIMPLE_OF_ONE = 0.93;
/** With so much of it in the ground's colour, what looks painted may still be cut out. */
const LEAST_WHITE = 0.14;
const LEAST_PICTURE = 0.05;
/** The largest patch of a picture against its middle one. */
const VARIED = 3;
/** A line round something covers no more of all it holds. */
const MOST_LINE = 0.3;

/** A ring round a figure: its wall against its size, from where its inside is asked for and taken as paint. */
const ASKED_RING = 0.03;
const WIDE_RING = 0.048;
/** Half of the blur of an edge counts as mark, on both sides of a wall. */
const EDGE = 1;
const LEAST_RINGED = 0.45;
/** What lies in the ring takes up so much of its inside. */
const LEAST_FIGURE = 0.05;
const LEAST_PART = 0.004;
/** A part that fills more of its convex hull is a plain shape, no figure. */
const PLAIN = 0.92;
/** The hole of a ring takes up more of it; a letter's counter, less. */
const LEAST_HOLE = 0.3;

/**
 * Lays over single judgements what areas are together: counters of lettering, lettering knocked out of a plate,
 * outlined letters, figures in a plate, the inside of a ring round a figure (docs/adr/0023).
 */
export function settleTogether(areas: readonly JudgedArea[], nesting: Nesting): Map<number, Settled> {
  const byLabel = new Map(areas.map((a) => [a.label, a]));
  const settled = new Map<number, Settled>(areas.map((a) => [a.label, { ...a.judgement, question: null }]));
  const done = new Set<number>();
  const set = (label: number, value: Settled) => {
    if (byLabel.get(label)?.shape.isPale) return;
    settled.set(label, value);
    done.add(label);
  };
  const scene: Scene = { nesting, byLabel, settled, done, set };
  settleWords(scene);
  settlePlates(scene);
  settleRings(scene);
  followInwards(scene);
  askPerPiece(scene);
  joinOutlined(scene);
  return settled;
}

interface Scene {
  readonly nesting: Nesting;
  readonly byLabel: ReadonlyMap<number, JudgedArea>;
  readonly settled: Map<number, Settled>;
  readonly done: Set<number>;
  readonly set: (label: number, value: Settled) => void;
}

const heightOf = (g: Sides) => g.bottom - g.top + 1;
const widthOf = (g: Sides) => g.right - g.left + 1;
const sizeOf = (p: Piece) => Math.sqrt(p.filledPx);
const rank = (sorted: readonly number[], share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;

/** Pieces that stand in one place: outside, or in one area. */
function siblings({ pieces }: Nesting): Piece[][] {
  const by = new Map<number | null, Piece[]>();
  for (const p of pieces) {
    if (heightOf(p) < 5) continue;
    const list = by.get(p.within);
    if (list) list.push(p);
    else by.set(p.within, [p]);
  }
  return [...by.values()];
}

function settleWords(scene: Scene): void {
  for (const pieces of siblings(scene.nesting)) {
    if (pieces.length < LEAST_LETTERS || !pieces.some((p) => p.areas.length)) continue;
    for (const line of findLettering(pieces)) {
      const letters = line.map((k) => pieces[k]);
      if (letters.length < LEAST_LETTERS) continue;
      if (isOutlined(letters, scene)) settleOutlined(withDots(letters, pieces), scene);
      else settleCounters(letters, scene);
    }
  }
  settleLooseOutlines(scene);
}

// Letters that run into each other are no line of letters; counters drawn by the same outline give them away.
function settleLooseOutlines(scene: Scene): void {
  const { nesting, byLabel, done, settled } = scene;
  const found = nesting.pieces.filter((piece) =>
    piece.areas.some((label) => {
      const wall = rank(byLabel.get(label)?.walls ?? [], 0.5);
      if (done.has(label) || wall === 0 || wall > MOST_OUTLINE * heightOf(piece)) return false;
      return (nesting.inside.get(label) ?? []).some((island) => isOutline(island, scene, EVEN * wall));
    }),
  );
  // One alone may be a ring round a letter.
  const hasRow = [...settled.values()].some((v) => v.question === OUTLINED);
  if (found.length > 1 || hasRow) settleOutlined(found, scene);
}

/** The largest area in a piece, with all that lies in it. */
function largestIn(p: Piece, { nesting, byLabel }: Scene): { area: JudgedArea; filled: number } | null {
  let most: { area: JudgedArea; filled: number } | null = null;
  for (const label of p.areas) {
    const [area, filled] = [byLabel.get(label), nesting.filled.get(label) ?? 0];
    if (area && filled > (most?.filled ?? 0)) most = { area, filled };
  }
  return most;
}

/** Whether a piece is nothing but an even stroke round an inside that spans it: no bowl of an R. */
function isOutline(p: Piece, scene: Scene, mostStroke = MOST_OUTLINE * heightOf(p)): boolean {
  const inside = largestIn(p, scene);
  if (!inside || inside.filled < LEAST_ENCLOSED * p.filledPx) return false;
  const { walls } = inside.area;
  const stroke = rank(walls, 0.5);
  const spans = (whole: number, part: number) => part >= whole - 2 * EVEN * stroke - 2 * EDGE;
  return (
    stroke < mostStroke &&
    rank(walls, 0.7) < EVEN * Math.max(rank(walls, 0.3), 1) &&
    spans(heightOf(p), heightOf(inside.area)) &&
    spans(widthOf(p), widthOf(inside.area))
  );
}

const isOutlined = (letters: readonly Piece[], scene: Scene): boolean =>
  letters.filter((p) => isOutline(p, scene)).length >= OUTLINED_SHARE * letters.length;

const isIn = (p: Sides, q: Sides, slack: number) =>
  p.left >= q.left - slack && p.right <= q.right + slack && p.top >= q.top - slack && p.bottom <= q.bottom + slack;

// Dots and accents of a line of letters.
function withDots<G extends Sides>(letters: readonly G[], pieces: readonly G[]): G[] {
  const box = boxAround(letters);
  return pieces.filter((p) => letters.includes(p) || isIn(p, box, heightOf(box) * BESIDE));
}

/** What reaches out of a line of letters by less, in its heights, still belongs to it. */
const BESIDE = 0.35;

const boxAround = (list: readonly Sides[]): Sides => ({
  left: Math.min(...list.map((p) => p.left)),
  right: Math.max(...list.map((p) => p.right)),
  top: Math.min(...list.map((p) => p.top)),
  bottom: Math.max(...list.map((p) => p.bottom)),
});

/** The one question about all letters that are drawn by an outline. */
const OUTLINED: Question = { key: 'outlined', about: 'outlined' };

// Insides one way, counters the other. Letters that run into each other share a piece with several insides.
function settleOutlined(letters: readonly Piece[], { nesting, set }: Scene): void {
  for (const p of letters) {
    for (const label of p.areas) {
      set(label, { decision: 'solid', certainty: ASKED, question: OUTLINED });
      for (const island of nesting.inside.get(label) ?? [])
        for (const counter of island.areas) set(counter, { decision: 'open', certainty: FOLLOWS, question: null });
    }
  }
}

function settleCounters(letters: readonly Piece[], { nesting, set, byLabel }: Scene): void {
  for (const p of letters) {
    // A letter has one or two counters, an ampersand or a figure up to three; a badge in a row of badges has more.
    if (p.areas.length > 4) continue;
    for (const label of p.areas) {
      const filled = nesting.filled.get(label) ?? 0;
      if (filled > MOST_COUNTER * p.filledPx || nesting.inside.has(label) || !byLabel.has(label)) continue;
      set(label, { decision: 'open', certainty: FOLLOWS, question: null });
    }
  }
}

function settlePlates(scene: Scene): void {
  const { nesting, byLabel, done, set } = scene;
  for (const piece of nesting.pieces) {
    const own = piece.areas.flatMap((l) => byLabel.get(l) ?? []).filter((a) => !a.shape.isPale && !done.has(a.label));
    if (own.length === 0) continue;
    const letters = knockedOut(own, piece);
    const rest = own.filter((a) => !letters.includes(a));
    const white = own.reduce((sum, a) => sum + (nesting.filled.get(a.label) ?? 0), 0);
    const isAsked = rest.some((a) => !isSurelySolid(a)) || isPicture(rest, white / piece.filledPx);
    const isFigure = isAsked && isPlate(own, piece, scene);
    if (letters.length === 0 && !isFigure) continue;
    const question: Question = { key: `plate ${piece.id}`, about: isFigure ? 'figure' : 'lettering' };
    const asked = [...letters, ...rest.filter((a) => isFigure || !isSurelySolid(a))];
    for (const a of asked) set(a.label, { decision: 'solid', certainty: ASKED, question });
    // A line round the figure cuts the plate in two: it goes with the figure.
    let { within } = piece;
    while (within !== null && byLabel.get(within)?.judgement.decision === 'solid' && isLine(within)) {
      set(within, { decision: 'solid', certainty: ASKED, question });
      within = nesting.around.get(within)?.within ?? null;
    }
  }

  function isLine(label: number): boolean {
    const area = byLabel.get(label);
    return area !== undefined && area.areaPx < MOST_LINE * (nesting.filled.get(label) ?? 0);
  }
}

/** Whether patches make up a picture of many parts, not some windows or eyes. */
function isPicture(patches: readonly JudgedArea[], white: number): boolean {
  if (patches.length < 3 || white < LEAST_PICTURE) return false;
  if (white > LEAST_WHITE) return true;
  const sizes = patches.map((a) => a.areaPx).sort((p, q) => p - q);
  return patches.length > 3 && rank(sizes, 1) > VARIED * rank(sizes, 0.5);
}

const isSurelySolid = ({ judgement }: JudgedArea) => judgement.decision === 'solid' && judgement.certainty >= 0.85;

function knockedOut(own: readonly JudgedArea[], piece: Piece): JudgedArea[] {
  if (own.length < LEAST_LETTERS) return [];
  const lines = findLettering(own)
    .map((line) => line.map((k) => own[k]))
    .filter((line) => {
      if (line.length < LEAST_LETTERS || !varyAsLetters(line)) return false;
      const filled = line.reduce((s, a) => s + a.areaPx, 0);
      const boxes = line.reduce((s, a) => s + heightOf(a) * widthOf(a), 0);
      const strokes = line.map((a) => a.shape.halfWidth / heightOf(a)).sort((a, b) => a - b);
      return (
        filled < (1 - LEAST_PAINT) * piece.filledPx &&
        filled < MOST_BOX_FILL * boxes &&
        rank(strokes, 0.5) < MOST_STROKE
      );
    });
  return [...new Set(lines.flatMap((line) => withDots(line, own)))];
}

/**
 * A filled shape that was painted on, not strokes that leave gaps: mostly paint, simple in outline, and with walls of
 * many widths where strokes have one.
 */
function isPlate(own: readonly JudgedArea[], piece: Piece, { nesting }: Scene): boolean {
  if (piece.areaPx < LEAST_PAINT * piece.filledPx) return false;
  // Gaps between strokes are wider than the strokes; a picture is painted on something wider than its parts.
  const largest = own.reduce((p, q) => (q.areaPx > p.areaPx ? q : p));
  if (largest.shape.halfWidth > WIDER * largest.shape.body) return false;
  const walls = own.flatMap((a) => a.walls).sort((p, q) => p - q);
  const unevenness = rank(walls, 0.8) / Math.max(1, rank(walls, 0.2));
  const solidity = nesting.solidity(piece);
  if (own.length === 1) return unevenness > UNEVEN && solidity >= LEAST_SIMPLE_OF_ONE && !isHandle(walls);
  if (unevenness > UNEVEN) return solidity >= LEAST_SIMPLE;
  const isDoubted = unevenness > HARDLY_EVEN || own.some((a) => a.judgement.certainty < LEAST_TRUSTED);
  return isDoubted && solidity >= SIMPLE && piece.areaPx > MOSTLY_PAINT * piece.filledPx;
}

// The hole of a handle has one thin wall along half of its rim, and the body behind the rest.
const isHandle = (walls: readonly number[]) => rank(walls, 0.4) < 1.4 * rank(walls, 0.1);

const isPlain = (p: Piece, nesting: Nesting) =>
  nesting.solidity(p) > PLAIN &&
  (p.areas.length === 0 || (p.areas.length === 1 && largestFilled(p, nesting) > LEAST_HOLE * p.filledPx));
const largestFilled = (p: Piece, nesting: Nesting) => Math.max(...p.areas.map((a) => nesting.filled.get(a) ?? 0));

/** Width of a ring, its blurred edges left out: its paint over the rim of a disc that it would fill. */
const wallOf = (piece: Piece) => piece.areaPx / (2 * Math.sqrt(Math.PI * piece.filledPx)) - 2 * EDGE;

function settleRings({ nesting, byLabel, settled, done, set }: Scene): void {
  for (const piece of nesting.pieces) {
    if (piece.within !== null || piece.areas.length === 0) continue;
    for (const label of piece.areas) {
      const area = byLabel.get(label);
      const islands = nesting.inside.get(label);
      if (!area || !islands || done.has(label) || area.shape.isPale) continue;
      const filled = nesting.filled.get(label) ?? 0;
      const parts = islands.filter((p) => p.filledPx > LEAST_PART * filled);
      const figure = parts.reduce((s, p) => s + p.filledPx, 0);
      if (filled < LEAST_RINGED * piece.filledPx || figure < LEAST_FIGURE * filled) continue;
      // A ring round a dot or a ring is a target, and open.
      if (parts.length === 1 && isPlain(parts[0], nesting)) continue;
      const wall = wallOf(piece) / sizeOf(piece);
      if (wall < ASKED_RING || settled.get(label)?.decision !== 'open') continue;
      const decision = wall >= WIDE_RING ? 'solid' : 'open';
      const question: Question = { key: `ring ${piece.id}`, about: 'ring' };
      set(label, { decision, certainty: ASKED, question });
      for (const inner of islands.flatMap((p) => p.areas)) {
        const judged = settled.get(inner);
        if (judged && (judged.decision === 'open' || judged.certainty < UNSURE_BELOW))
          set(inner, { decision, certainty: ASKED, question });
      }
    }
  }
}

// Nothing shows through paint: what lies inside a solid area is solid with it, outlined letters apart.
function followInwards({ nesting, settled, byLabel }: Scene): void {
  for (const piece of nesting.pieces) {
    if (piece.within === null) continue;
    const outer = settled.get(piece.within);
    if (!outer || outer.decision !== 'solid' || outer.question === OUTLINED) continue;
    if (byLabel.get(piece.within)?.shape.isPale) continue;
    for (const label of piece.areas) {
      const own = settled.get(label);
      if (!own || byLabel.get(label)?.shape.isPale || (own.decision === 'solid' && own.question)) continue;
      settled.set(label, { ...outer });
    }
  }
}

/** Below this an area is put to the person. */
export const UNSURE_BELOW = 0.75;

// What is unsure in one piece of the mark is one question.
function askPerPiece({ nesting, settled }: Scene): void {
  for (const [label, value] of settled) {
    if (value.certainty >= UNSURE_BELOW || value.question) continue;
    const piece = nesting.around.get(label);
    settled.set(label, {
      ...value,
      question: { key: `piece ${piece?.id ?? label} ${value.decision}`, about: 'area' },
    });
  }
}

// What is asked of between outlined letters (two that run into each other, a joined flourish) goes with them.
function joinOutlined({ byLabel, settled }: Scene): void {
  const letters = [...settled].flatMap(([l, v]) => (v.question === OUTLINED ? (byLabel.get(l) ?? []) : []));
  if (letters.length === 0) return;
  const box = boxAround(letters);
  for (const [label, value] of settled) {
    const area = byLabel.get(label);
    if (!area || !value.question || value.question === OUTLINED) continue;
    if (isIn(area, box, heightOf(box) * BESIDE)) settled.set(label, { ...value, question: OUTLINED });
  }
}

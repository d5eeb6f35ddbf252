import { LEAST_LETTERS, findLettering, varyAsLetters } from './lettering';
import { type Nesting, type Piece, heightOf, widthOf } from './nesting';
import { ASKED, EDGE, FOLLOWS, type JudgedArea, type Question, type Scene, rank, withDots } from './settleScene';

/** A hole that takes up more of its letter than this is no counter; less than that, no counter either. */
const MOST_COUNTER = 0.72;
/** An outline's stroke against the letter's height, and how much of the letter it encloses. */
const MOST_OUTLINE = 0.14;
const LEAST_ENCLOSED = 0.12;
/** Of an even stroke seven tenths are no wider than so many times its thin part. */
const EVEN = 1.6;
/** So many of a line's letters are drawn by an outline when all are. */
const OUTLINED_SHARE = 0.75;

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

/** Words: counters of letters are open for sure, letters drawn by an outline are one question. */
export function settleWords(scene: Scene): void {
  for (const pieces of siblings(scene.nesting)) {
    if (pieces.length < LEAST_LETTERS || !pieces.some((p) => p.areas.length)) continue;
    for (const line of findLettering(pieces)) {
      const letters = line.map((k) => pieces[k]);
      if (letters.length < LEAST_LETTERS) continue;
      if (isOutlined(letters, scene)) settleOutlined(withDots(letters, pieces), scene);
      // Coins or buttons in a row are all of one shape; what is white on them is judged as on any plate.
      else if (varyAsLetters(letters.map((p) => ({ ...p, areaPx: p.filledPx })))) settleCounters(letters, scene);
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

/** The one question about all letters that are drawn by an outline. */
export const OUTLINED: Question = { key: 'outlined', about: 'outlined' };

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

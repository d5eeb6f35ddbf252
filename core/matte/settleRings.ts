import type { Nesting, Piece } from './nesting';
import { ASKED, EDGE, type Question, type Scene, UNSURE_BELOW, sizeOf } from './settleScene';

/** A ring round a figure: its wall against its size, from where its inside is asked for and taken as paint. */
const ASKED_RING = 0.03;
const WIDE_RING = 0.048;
const LEAST_RINGED = 0.45;
/** What lies in the ring takes up so much of its inside. */
const LEAST_FIGURE = 0.05;
const LEAST_PART = 0.004;
/** A part that fills more of its convex hull is a plain shape, no figure. */
const PLAIN = 0.92;
/** The hole of a ring takes up more of it; a letter's counter, less. */
const LEAST_HOLE = 0.3;

const isPlain = (p: Piece, nesting: Nesting) =>
  nesting.solidity(p) > PLAIN &&
  (p.areas.length === 0 || (p.areas.length === 1 && largestFilled(p, nesting) > LEAST_HOLE * p.filledPx));
const largestFilled = (p: Piece, nesting: Nesting) => Math.max(...p.areas.map((a) => nesting.filled.get(a) ?? 0));

/** Width of a ring, its blurred edges left out: its paint over the rim of a disc that it would fill. */
const wallOf = (piece: Piece) => piece.areaPx / (2 * Math.sqrt(Math.PI * piece.filledPx)) - 2 * EDGE;

/** A ring round a figure: its whole inside is one question. */
export function settleRings({ nesting, byLabel, settled, done, set }: Scene): void {
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

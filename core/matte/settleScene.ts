import type { AreaShape, Judgement } from './judgeArea';
import { type Nesting, type Piece, type Sides, heightOf } from './nesting';

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
export const ASKED = 0.6;
/** What belongs to lettering or lies inside something solid follows for sure. */
export const FOLLOWS = 0.95;

/** Half of the blur of an edge counts as mark, on both sides of a wall. */
export const EDGE = 1;

/** Below this an area is put to the person. */
export const UNSURE_BELOW = 0.75;

/** What the rules for areas that belong together work on. */
export interface Scene {
  readonly nesting: Nesting;
  readonly byLabel: ReadonlyMap<number, JudgedArea>;
  readonly settled: Map<number, Settled>;
  readonly done: Set<number>;
  readonly set: (label: number, value: Settled) => void;
}

export const sizeOf = (p: Piece) => Math.sqrt(p.filledPx);
export const rank = (sorted: readonly number[], share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;

export const isIn = (p: Sides, q: Sides, slack: number) =>
  p.left >= q.left - slack && p.right <= q.right + slack && p.top >= q.top - slack && p.bottom <= q.bottom + slack;

/** What reaches out of a line of letters by less, in its heights, still belongs to it. */
export const BESIDE = 0.35;

export function boxAround(list: readonly Sides[]): Sides {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (const { left, top, right, bottom } of list) {
    box.left = Math.min(box.left, left);
    box.top = Math.min(box.top, top);
    box.right = Math.max(box.right, right);
    box.bottom = Math.max(box.bottom, bottom);
  }
  return box;
}

// Dots and accents of a line of letters.
export function withDots<G extends Sides>(letters: readonly G[], pieces: readonly G[]): G[] {
  const box = boxAround(letters);
  return pieces.filter((p) => letters.includes(p) || isIn(p, box, heightOf(box) * BESIDE));
}

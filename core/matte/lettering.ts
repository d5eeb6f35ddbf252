import { type Sides, heightOf, widthOf } from './nesting';

/** Letters of one line: neither taller than so many times the other (an x beside a capital, a descender). */
const LIKE_HEIGHT = 1.75;
/** The next letter begins within this many heights, and shares this much of the smaller one's height. */
const NEXT_GAP = 0.85;
const SHARED_HEIGHT = 0.5;
/** Along an arc a letter's box turns: its longer side stands for its height, and the next one is nearer. */
const ARC_GAP = 0.7;
/** Fewer are no lettering. */
export const LEAST_LETTERS = 3;

/** Something that may be a letter. */
export interface Glyph extends Sides {
  readonly areaPx: number;
}

const sizeOf = (g: Sides) => Math.max(heightOf(g), widthOf(g));
const near = (p: number, q: number, ratio: number) => Math.max(p, q) <= ratio * Math.min(p, q);

/**
 * Finds lines of lettering among boxes: neighbours of like height that follow each other along a row, or of like size
 * along an arc.
 * @returns the lines, each as indices into `glyphs`; a box is in one line at most
 */
export function findLettering(glyphs: readonly Glyph[]): number[][] {
  const straight = chains(glyphs, isNextInRow).filter((line) => line.length >= LEAST_LETTERS);
  const taken = new Set(straight.flat());
  const rest = glyphs.map((g, k) => ({ g, k })).filter(({ k }) => !taken.has(k));
  const arcs = chains(
    rest.map(({ g }) => g),
    isNextOnArc,
  ).filter((line) => line.length > LEAST_LETTERS);
  return [...straight, ...arcs.map((line) => line.map((n) => rest[n].k))].map((line) => likeTheMiddle(glyphs, line));
}

function isNextInRow(p: Glyph, q: Glyph): boolean {
  const [hp, hq] = [heightOf(p), heightOf(q)];
  if (!near(hp, hq, LIKE_HEIGHT)) return false;
  const gap = Math.max(p.left - q.right, q.left - p.right) - 1;
  const shared = Math.min(p.bottom, q.bottom) - Math.max(p.top, q.top) + 1;
  return gap <= NEXT_GAP * Math.max(hp, hq) && shared >= SHARED_HEIGHT * Math.min(hp, hq);
}

function isNextOnArc(p: Glyph, q: Glyph): boolean {
  if (!near(sizeOf(p), sizeOf(q), LIKE_HEIGHT)) return false;
  const gap = Math.max(p.left - q.right, q.left - p.right, p.top - q.bottom, q.top - p.bottom) - 1;
  return gap <= ARC_GAP * Math.min(sizeOf(p), sizeOf(q));
}

/** Beyond so many boxes the picture is a texture, not a logo. */
const MOST_GLYPHS = 1500;

function chains(glyphs: readonly Glyph[], isNext: (p: Glyph, q: Glyph) => boolean): number[][] {
  if (glyphs.length > MOST_GLYPHS) return [];
  const parent = glyphs.map((_, k) => k);
  const root = (k: number): number => (parent[k] === k ? k : (parent[k] = root(parent[k])));
  for (let a = 0; a < glyphs.length; a++)
    for (let b = a + 1; b < glyphs.length; b++)
      if (root(a) !== root(b) && isNext(glyphs[a], glyphs[b])) parent[root(a)] = root(b);
  const lines = new Map<number, number[]>();
  glyphs.forEach((_, k) => lines.set(root(k), [...(lines.get(root(k)) ?? []), k]));
  return [...lines.values()];
}

// A chain grows from like to like; what is unlike its middle is a picture beside the word.
function likeTheMiddle(glyphs: readonly Glyph[], line: readonly number[]): number[] {
  const sizes = line.map((k) => heightOf(glyphs[k])).sort((a, b) => a - b);
  const middle = sizes[sizes.length >> 1];
  return line.filter((k) => near(heightOf(glyphs[k]), middle, LIKE_HEIGHT * 1.15));
}

/** Whether boxes differ as letters do: in width, or in how much of their box they fill. */
export function varyAsLetters(glyphs: readonly Glyph[]): boolean {
  const widths = glyphs.map((g) => widthOf(g) / heightOf(g));
  const fills = glyphs.map((g) => g.areaPx / (widthOf(g) * heightOf(g)));
  return spread(widths) > LEAST_SPREAD || spread(fills) > LEAST_SPREAD;
}

/** Deviation over mean, above which things are not all of one kind. */
const LEAST_SPREAD = 0.09;
function spread(list: readonly number[]): number {
  const mean = list.reduce((a, b) => a + b, 0) / list.length;
  return Math.sqrt(list.reduce((s, v) => s + (v - mean) ** 2, 0) / list.length) / mean;
}

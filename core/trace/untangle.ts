import { IDENTITY } from '../geometry/matrix';
import { flattenPath } from '../vector/flattenPath';
import { type Path, PathBuilder } from '../vector/path';

/** Chords are looked for in squares of this side, px. */
const CELL_PX = 6;

interface Chords {
  readonly lines: readonly number[];
  /** Which ring each chord is of, and its place and the number of chords there. */
  readonly ring: readonly number[];
  readonly place: readonly number[];
  readonly count: readonly number[];
}

/** Where two chords cross: the one of a ring and that of another, or of the same. */
interface Crossing {
  readonly a: number;
  readonly b: number;
}

/** Which of several rings cross themselves or one another. */
export function findTangled(rings: readonly Path[]): Set<number> {
  const chords = chordsOf(rings);
  const tangled = new Set<number>();
  eachCrossing(chords, ({ a, b }) => {
    tangled.add(chords.ring[a]).add(chords.ring[b]);
    return true;
  });
  return tangled;
}

/** A polygon without the loops that it makes where it crosses itself; the longer way round stays. */
export function withoutLoops(points: readonly (readonly [number, number])[]): Path {
  let left = points;
  for (let k = 0; k < points.length; k++) {
    const chords = chordsOf([polygon(left)]);
    let found: Crossing | null = null;
    eachCrossing(chords, (crossing) => {
      found = crossing;
      return false;
    });
    if (!found) break;
    left = cutLoop(left, chords, found);
  }
  return polygon(left);
}

function cutLoop(points: readonly (readonly [number, number])[], { lines }: Chords, { a, b }: Crossing) {
  const [i, j] = [Math.min(a, b), Math.max(a, b)];
  const at = meet(lines, i * 4, j * 4);
  // Chord i begins at point i.
  const isInnerLonger = j - i > points.length / 2;
  return isInnerLonger ? [at, ...points.slice(i + 1, j + 1)] : [...points.slice(0, i + 1), at, ...points.slice(j + 1)];
}

function polygon(points: readonly (readonly [number, number])[]): Path {
  const builder = new PathBuilder();
  points.forEach(([x, y], k) => (k === 0 ? builder.moveTo(x, y) : builder.lineTo(x, y)));
  return builder.done();
}

function chordsOf(rings: readonly Path[]): Chords {
  const all = { lines: [] as number[], ring: [] as number[], place: [] as number[], count: [] as number[] };
  rings.forEach((path, ring) => {
    const lines = flattenPath(path, IDENTITY);
    for (let k = 0; k < lines.length; k += 4) {
      all.ring.push(ring);
      all.place.push(k / 4);
      all.count.push(lines.length / 4);
      all.lines.push(lines[k], lines[k + 1], lines[k + 2], lines[k + 3]);
    }
  });
  return all;
}

/** Calls back for every pair of chords that cross, until that says no. */
function eachCrossing(chords: Chords, found: (crossing: Crossing) => boolean): void {
  const { lines } = chords;
  const cells = new Map<number, number[]>();
  const cellOf = (v: number) => Math.floor(v / CELL_PX);
  for (let a = 0; a * 4 < lines.length; a++) {
    const [x0, y0, x1, y1] = [lines[a * 4], lines[a * 4 + 1], lines[a * 4 + 2], lines[a * 4 + 3]];
    const [right, bottom] = [cellOf(Math.max(x0, x1)), cellOf(Math.max(y0, y1))];
    for (let v = cellOf(Math.min(y0, y1)); v <= bottom; v++)
      for (let u = cellOf(Math.min(x0, x1)); u <= right; u++) {
        const key = v * CELL_ROW + u;
        const others = cells.get(key);
        if (!others) {
          cells.set(key, [a]);
          continue;
        }
        for (const b of others)
          if (!areNeighbours(chords, a, b) && doCross(lines, a * 4, b * 4) && !found({ a, b })) return;
        others.push(a);
      }
  }
}
/** More cells than a row of any picture has. */
const CELL_ROW = 1 << 20;

function areNeighbours({ ring, place, count }: Chords, a: number, b: number): boolean {
  if (ring[a] !== ring[b]) return false;
  const apart = Math.abs(place[a] - place[b]);
  return apart <= 1 || apart === count[a] - 1;
}

/** Twice the area of the triangle of a chord and the place at `p`: on which side of the chord it lies. */
const side = (l: readonly number[], c: number, p: number) =>
  (l[c + 2] - l[c]) * (l[p + 1] - l[c + 1]) - (l[c + 3] - l[c + 1]) * (l[p] - l[c]);

const doCross = (l: readonly number[], a: number, b: number) =>
  side(l, a, b) * side(l, a, b + 2) < 0 && side(l, b, a) * side(l, b, a + 2) < 0;

function meet(l: readonly number[], a: number, b: number): [number, number] {
  const [from, to] = [side(l, b, a), side(l, b, a + 2)];
  const t = from / (from - to);
  return [l[a] + t * (l[a + 2] - l[a]), l[a + 1] + t * (l[a + 3] - l[a + 1])];
}

import type { Anchor } from '../core/params';
import type { TestLogo } from './testLogos';
import type { Raster } from '../core/raster/raster';

export interface EnclosedScore {
  readonly groundLeft: number | null;
  readonly solidsLost: number | null;
}

const isNear = (d: Uint8Array, i: number, g: readonly number[]) =>
  Math.abs(d[i] - g[0]) < 10 && Math.abs(d[i + 1] - g[1]) < 10 && Math.abs(d[i + 2] - g[2]) < 10;

/**
 * Per pixel of the truth: 1 enclosed and open, 2 enclosed and solid in the ground's colour, 0 anything else; and a
 * point for each patch.
 */
export function enclosedTruth({ truth, ground }: Pick<TestLogo, 'truth' | 'ground'>): {
  kinds: Uint8Array;
  anchors: Anchor[];
} {
  const { width, height, data } = truth;
  const kinds = new Uint8Array(width * height);
  const seen = new Uint8Array(width * height);
  const anchors: Anchor[] = [];
  const kindAt = (i: number) =>
    data[i * 4 + 3] === 0 ? 1 : data[i * 4 + 3] === 255 && isNear(data, i * 4, ground) ? 2 : 0;
  for (let start = 0; start < seen.length; start++) {
    const kind = kindAt(start);
    if (kind === 0 || seen[start]) continue;
    const members: number[] = [];
    const stack = [start];
    seen[start] = 1;
    let touches = false;
    while (stack.length) {
      const i = stack.pop() as number;
      members.push(i);
      const x = i % width;
      const y = (i / width) | 0;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) touches = true;
      for (const n of [
        x > 0 ? i - 1 : -1,
        x < width - 1 ? i + 1 : -1,
        y > 0 ? i - width : -1,
        y < height - 1 ? i + width : -1,
      ]) {
        if (n >= 0 && !seen[n] && kindAt(n) === kind) {
          seen[n] = 1;
          stack.push(n);
        }
      }
    }
    if (touches || members.length < 12) continue;
    for (const i of members) kinds[i] = kind;
    const inner = deepest(members, kinds, kind, width);
    anchors.push({ x: inner % width, y: Math.floor(inner / width), decision: kind === 1 ? 'open' : 'solid' });
  }
  return { kinds, anchors };
}

function deepest(members: number[], kinds: Uint8Array, kind: number, width: number): number {
  let best = members[0];
  let depth = -1;
  for (let k = 0; k < members.length; k += Math.max(1, Math.floor(members.length / 400))) {
    const i = members[k];
    let d = 0;
    while (d < 40 && [i - d, i + d, i - d * width, i + d * width].every((n) => kinds[n] === kind)) d++;
    if (d > depth) [best, depth] = [i, d];
  }
  return best;
}

/** Share of enclosed open ground that stayed, and of enclosed solids that went. */
export function scoreEnclosed(result: Raster, kinds: Uint8Array): EnclosedScore {
  const count = [0, 0, 0];
  const wrong = [0, 0, 0];
  for (let i = 0; i < kinds.length; i++) {
    const kind = kinds[i];
    if (kind === 0) continue;
    count[kind]++;
    const isKept = result.data[i * 4 + 3] > 127;
    if (isKept === (kind === 1)) wrong[kind]++;
  }
  return { groundLeft: count[1] ? wrong[1] / count[1] : null, solidsLost: count[2] ? wrong[2] / count[2] : null };
}

import type { Raster } from '../raster/raster';
import type { Covered } from './coverage';

/** Above this a pixel is the mark's. */
const SOLID = 128;
/** How far inside the mark its coverage is read beside a pocket: past the softness of an edge. */
const INSIDE_PX = 4;
/** Edge pixels beside a pocket are part of its rim. */
const RIM_PX = 2;
/**
 * An area drawn round is taken for a pocket when at least so much of what is clear in it lies between the mark's walls.
 */
const POCKET_SHARE = 0.5;

/** A picture seen row by row, or column by column. */
interface Lines {
  readonly count: number;
  readonly length: number;
  /** Alpha at a place along a line, also outside of the outline; 0 outside of the picture. */
  alpha(line: number, at: number): number;
  /** Whether the outline holds it. */
  isIn(line: number, at: number): boolean;
  /** Where it stands in the coverage. */
  index(line: number, at: number): number;
}

function linesOf({ width, height, data }: Raster, { box, share }: Covered, isDown: boolean): Lines {
  const alphaAt = (x: number, y: number) =>
    x < 0 || y < 0 || x >= width || y >= height ? 0 : data[(y * width + x) * 4 + 3];
  const index = (line: number, at: number) => (isDown ? at * box.width + line : line * box.width + at);
  return {
    count: isDown ? box.width : box.height,
    length: isDown ? box.height : box.width,
    alpha: (line, at) => (isDown ? alphaAt(box.x + line, box.y + at) : alphaAt(box.x + at, box.y + line)),
    isIn: (line, at) => share[index(line, at)] >= SOLID,
    index,
  };
}

/**
 * What an outline or stroke means that was drawn round a part of the mark which the ground's colour runs into, such as
 * a door: what lies between the mark's own walls, from the one to the other, and ends where they end, to the fraction
 * of a pixel. Where little of it lies between walls the outline is meant as it was drawn.
 */
export function pocketOf(raster: Raster, covered: Covered, leastShare = POCKET_SHARE): Covered {
  const across = between(linesOf(raster, covered, false));
  const down = between(linesOf(raster, covered, true));
  const best = across.found >= down.found ? across : down;
  if (best.clear === 0 || best.found / best.clear < leastShare) return covered;
  const share = new Uint8Array(covered.share.length);
  for (const [k, value] of best.share) share[k] = value;
  // What is solid already stays under the outline; it changes nothing there.
  return { box: covered.box, share };
}

interface Span {
  readonly from: number;
  readonly to: number;
}

function between(lines: Lines) {
  const share = new Map<number, number>();
  const spans: Span[][] = [];
  let clear = 0;
  let found = 0;
  for (let line = 0; line < lines.count; line++) {
    const own: Span[] = [];
    for (let at = 0; at < lines.length; at++) {
      if (!lines.isIn(line, at) || lines.alpha(line, at) >= SOLID) continue;
      const from = at;
      while (at < lines.length && lines.isIn(line, at) && lines.alpha(line, at) < SOLID) at++;
      clear += at - from;
      const isBounded = lines.alpha(line, from - 1) >= SOLID && lines.alpha(line, at) >= SOLID;
      if (!isBounded) continue;
      found += at - from;
      own.push({ from, to: at });
    }
    spans.push(own);
  }
  const fill = (line: number, { from, to }: Span, value: number) => {
    for (let at = Math.max(0, from - RIM_PX); at < Math.min(lines.length, to + RIM_PX); at++)
      share.set(lines.index(line, at), Math.max(value, share.get(lines.index(line, at)) ?? 0));
  };
  spans.forEach((own, line) => own.forEach((span) => fill(line, span, 255)));
  // The line on which the walls end may hold only a part of them: the pocket ends there with the same part.
  spans.forEach((own, line) => {
    for (const next of [line - 1, line + 1]) {
      if (next < 0 || next >= lines.count) continue;
      for (const span of own) {
        if (spans[next].some((s) => s.from < span.to && s.to > span.from)) continue;
        const part = Math.min(lines.alpha(next, span.from - INSIDE_PX), lines.alpha(next, span.to - 1 + INSIDE_PX));
        if (part > 0) fill(next, span, part);
      }
    }
  });
  return { share, clear, found };
}

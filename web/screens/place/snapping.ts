import type { RectPx } from '../../../core/params';
import { ANCHORS, type Anchor } from '../../../core/placements/placement';
import type { Extent } from '../../../core/sizes/size';

/** A line that something came to lie on, px of the ground. */
export interface Guide {
  readonly way: 'across' | 'down';
  readonly at: number;
}

export interface Snapped {
  readonly x: number;
  readonly y: number;
  readonly guides: readonly Guide[];
}

/** Safe areas, shares of each side. @see EBU R95, "Safe areas for 16:9 television production" */
export const SAFE = { action: 0.035, title: 0.05 } as const;

/**
 * Where a box comes to lie when it is let go near something: edges, the middle, the safe area, the distance that the
 * rule asks for, other items.
 * @param reach  how near that is, px of the ground
 */
export function snapBox(
  box: RectPx,
  ground: Extent,
  { insetPx, others, reach }: { insetPx: number; others: readonly RectPx[]; reach: number },
): Snapped {
  const lines = (whole: number, from: 'x' | 'y', size: 'width' | 'height') => [
    ...[0, whole, whole / 2, insetPx, whole - insetPx, whole * SAFE.title, whole * (1 - SAFE.title)],
    ...others.flatMap((o) => [o[from], o[from] + o[size], o[from] + o[size] / 2]),
  ];
  const across = nearest(box.x, box.width, lines(ground.width, 'x', 'width'), reach);
  const down = nearest(box.y, box.height, lines(ground.height, 'y', 'height'), reach);
  return {
    x: across?.moved ?? box.x,
    y: down?.moved ?? box.y,
    guides: [
      ...(across ? [{ way: 'down' as const, at: across.at }] : []),
      ...(down ? [{ way: 'across' as const, at: down.at }] : []),
    ],
  };
}

function nearest(from: number, length: number, lines: readonly number[], reach: number) {
  let best: { moved: number; at: number; off: number } | null = null;
  for (const at of lines) {
    for (const part of [0, length / 2, length]) {
      const off = Math.abs(from + part - at);
      if (off <= reach && (!best || off < best.off)) best = { moved: at - part, at, off };
    }
  }
  return best;
}

/** Distances from a box to the edges of its ground, px. */
export const distancesOf = (box: RectPx, ground: Extent) => ({
  left: box.x,
  right: ground.width - box.x - box.width,
  top: box.y,
  bottom: ground.height - box.y - box.height,
});

/**
 * The place by name that a box is at, and its distance from the edges there: what a hand has set on one ground, as a
 * rule for all.
 */
export function placeByName(box: RectPx, ground: Extent): { at: Anchor; insetPct: number } {
  const third = (middle: number, whole: number) => Math.min(2, Math.max(0, Math.floor((middle / whole) * 3)));
  const column = third(box.x + box.width / 2, ground.width);
  const row = third(box.y + box.height / 2, ground.height);
  const d = distancesOf(box, ground);
  const edges = [
    ...(column === 0 ? [d.left] : column === 2 ? [d.right] : []),
    ...(row === 0 ? [d.top] : row === 2 ? [d.bottom] : []),
  ];
  const inset = edges.length > 0 ? Math.max(0, Math.min(...edges)) : 0;
  const short = Math.min(ground.width, ground.height);
  return { at: ANCHORS[row * 3 + column], insetPct: Math.round((inset / short) * 1000) / 10 };
}

import type { RectPx } from '../params';

/** The smallest box round some; there must be one. */
export function boxRound(boxes: readonly RectPx[]): RectPx {
  const x = Math.min(...boxes.map((b) => b.x));
  const y = Math.min(...boxes.map((b) => b.y));
  return {
    x,
    y,
    width: Math.max(...boxes.map((b) => b.x + b.width)) - x,
    height: Math.max(...boxes.map((b) => b.y + b.height)) - y,
  };
}

/** How much of a box lies in another, 0..1. A level line has no area: its length counts. */
export function shareInside(b: RectPx, other: RectPx): number {
  const w = Math.min(b.x + b.width, other.x + other.width) - Math.max(b.x, other.x);
  const h = Math.min(b.y + b.height, other.y + other.height) - Math.max(b.y, other.y);
  const share = (seen: number, all: number) => (all > 0 ? Math.max(0, seen) / all : seen >= 0 ? 1 : 0);
  return share(w, b.width) * share(h, b.height);
}

/** What lies in a rectangle that picks has so much of its box in it. */
export const PICKED_SHARE = 0.9;

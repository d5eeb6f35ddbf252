import type { Place } from './frame';

/** Screen px of a press on an arrow key, and with Shift. */
const STEP_PX = 4;
const FAR_PX = 32;
const ways: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

interface Hand {
  /** Where the hand is; null where it has not been yet. */
  readonly at: Place | null;
  onMove(to: Place): void;
  /** The space bar: a brush goes down or up, an outline gets a corner. */
  onSet(at: Place): void;
}

/** What keys do on a surface that is otherwise drawn on by hand: the arrows move, the space bar sets. */
export function handKeys({ at, onMove, onSet }: Hand) {
  return (event: React.KeyboardEvent<HTMLElement>) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const { clientWidth: w, clientHeight: h } = event.currentTarget;
    const here = at ?? { x: w / 2, y: h / 2 };
    const way = ways[event.key];
    if (!way && event.key !== ' ') return;
    // Neither does the picture move beneath, nor is the original shown.
    event.preventDefault();
    event.stopPropagation();
    if (!way) {
      if (!event.repeat) onSet(here);
      return;
    }
    const step = event.shiftKey ? FAR_PX : STEP_PX;
    onMove({
      x: Math.max(0, Math.min(w, here.x + way[0] * step)),
      y: Math.max(0, Math.min(h, here.y + way[1] * step)),
    });
  };
}

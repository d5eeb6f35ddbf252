import { useDrag } from '@use-gesture/react';
import { useRef } from 'react';

const STEP = 0.02;
const clamp = (v: number) => Math.min(1, Math.max(0, v));

/** The bar between original and result; `at` is its place, 0..1 across. */
export function Wipe({ at, onMove }: { at: number; onMove: (at: number) => void }) {
  const bar = useRef<HTMLDivElement>(null);
  const bindDrag = useDrag(
    ({ event, xy: [x] }) => {
      event.stopPropagation();
      const bounds = bar.current?.parentElement?.getBoundingClientRect();
      if (bounds) onMove(clamp((x - bounds.left) / bounds.width));
    },
    { pointer: { keys: false } },
  );
  return (
    <div
      {...bindDrag()}
      className="wipe"
      ref={bar}
      style={{ left: `${at * 100}%` }}
      role="slider"
      tabIndex={0}
      aria-label="Wipe between original and result"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(at * 100)}
      onKeyDown={(event) => {
        const step = event.key === 'ArrowLeft' ? -STEP : event.key === 'ArrowRight' ? STEP : 0;
        if (!step) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(clamp(at + step));
      }}
    >
      <span aria-hidden="true">⇆</span>
    </div>
  );
}

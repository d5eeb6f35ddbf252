import { useEffect, useRef } from 'react';
import type { RectPx } from '../../../../core/params';
import type { Viewport } from './useViewport';

interface Props {
  readonly rect: RectPx | null;
  readonly width: number;
  readonly height: number;
  readonly view: Viewport;
  readonly onChange: (rect: RectPx | null, isFinal: boolean) => void;
}

// Which sides a handle moves: left, top, right, bottom.
const handles: Record<string, readonly [number, number, number, number]> = {
  'top left': [1, 1, 0, 0], top: [0, 1, 0, 0], 'top right': [0, 1, 1, 0], right: [0, 0, 1, 0],
  'bottom right': [0, 0, 1, 1], bottom: [0, 0, 0, 1], 'bottom left': [1, 0, 0, 1], left: [1, 0, 0, 0],
};
const LEAST_PX = 4;

/** The crop region on the picture: drag its inside to move it, its eight handles to change it. */
export function CropFrame({ rect, width, height, view, onChange }: Props) {
  const r = rect ?? { x: 0, y: 0, width, height };
  const held = useRef<{ sides: readonly number[]; from: RectPx; x: number; y: number; now: RectPx } | null>(null);
  const latest = useRef({ view, width, height, onChange });
  latest.current = { view, width, height, onChange };
  useEffect(() => {
    const move = (event: PointerEvent) => {
      const h = held.current;
      if (!h) return;
      const { view: v, width: w, height: hh, onChange: change } = latest.current;
      h.now = moveSides(h.from, h.sides, (event.clientX - h.x) / v.scale, (event.clientY - h.y) / v.scale, w, hh);
      change(h.now, false);
    };
    const end = () => {
      const h = held.current;
      held.current = null;
      if (h && h.now !== h.from) latest.current.onChange(h.now, true);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', end);
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', end);
    };
  }, []);
  const hold = (sides: readonly number[]) => (event: React.PointerEvent) => {
    event.stopPropagation();
    held.current = { sides, from: r, x: event.clientX, y: event.clientY, now: r };
  };
  const nudge = (sides: readonly number[]) => (event: React.KeyboardEvent) => {
    const step = event.shiftKey ? 10 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    onChange(moveSides(r, sides, by[0], by[1], width, height), true);
  };
  const all = [1, 1, 1, 1];
  return (
    <div className="crop" style={{ left: view.x + r.x * view.scale, top: view.y + r.y * view.scale, width: r.width * view.scale, height: r.height * view.scale }}>
      <div className="crop-inside" role="button" tabIndex={0} aria-label="Crop region; arrow keys move it" onPointerDown={hold(all)} onKeyDown={nudge(all)} />
      {Object.entries(handles).map(([name, sides]) => (
        <button key={name} type="button" className={`crop-handle ${name.replace(' ', '-')}`} aria-label={`Crop ${name}; arrow keys move it`} onPointerDown={hold(sides)} onKeyDown={nudge(sides)} />
      ))}
    </div>
  );
}

/** A region with some of its sides moved, whole pixels, inside the picture. */
export function moveSides(from: RectPx, sides: readonly number[], dx: number, dy: number, width: number, height: number): RectPx {
  const clamp = (v: number, lo: number, hi: number) => Math.min(hi, Math.max(lo, Math.round(v)));
  if (sides.every((s) => s === 1)) return { ...from, x: clamp(from.x + dx, 0, width - from.width), y: clamp(from.y + dy, 0, height - from.height) };
  const right = from.x + from.width;
  const bottom = from.y + from.height;
  const x0 = sides[0] ? clamp(from.x + dx, 0, right - LEAST_PX) : from.x;
  const y0 = sides[1] ? clamp(from.y + dy, 0, bottom - LEAST_PX) : from.y;
  const x1 = sides[2] ? clamp(right + dx, x0 + LEAST_PX, width) : right;
  const y1 = sides[3] ? clamp(bottom + dy, y0 + LEAST_PX, height) : bottom;
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}

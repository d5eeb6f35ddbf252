import { useEffect, useRef } from 'react';
import type { RectPx } from '../../../../core/params';
import { moveSides } from './moveSides';
import type { Viewport } from './useViewport';

interface Props {
  readonly rect: RectPx;
  /** How far the region leans, clockwise. */
  readonly turnDeg: number;
  readonly width: number;
  readonly height: number;
  readonly view: Viewport;
  readonly onChange: (rect: RectPx, isFinal: boolean) => void;
}

// Which sides a handle moves: left, top, right, bottom.
const handles: Record<string, readonly [number, number, number, number]> = {
  'top left': [1, 1, 0, 0],
  top: [0, 1, 0, 0],
  'top right': [0, 1, 1, 0],
  right: [0, 0, 1, 0],
  'bottom right': [0, 0, 1, 1],
  bottom: [0, 0, 0, 1],
  'bottom left': [1, 0, 0, 1],
  left: [1, 0, 0, 0],
};

/** The crop region on the picture: drag its inside to move it, its eight handles to change it. */
export function CropFrame({ rect, turnDeg, width, height, view, onChange }: Props) {
  const held = useRef<{ sides: readonly number[]; from: RectPx; x: number; y: number; now: RectPx } | null>(null);
  const latest = useRef({ view, width, height, turnDeg, onChange });
  latest.current = { view, width, height, turnDeg, onChange };
  useEffect(() => {
    const move = (event: PointerEvent) => {
      const h = held.current;
      if (!h) return;
      const { view: v, width: w, height: hh, turnDeg: t, onChange: change } = latest.current;
      h.now = moveSides(h.from, h.sides, (event.clientX - h.x) / v.scale, (event.clientY - h.y) / v.scale, w, hh, t);
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
    held.current = { sides, from: rect, x: event.clientX, y: event.clientY, now: rect };
  };
  const nudge = (sides: readonly number[]) => (event: React.KeyboardEvent) => {
    const step = event.shiftKey ? 10 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    onChange(moveSides(rect, sides, by[0], by[1], width, height, turnDeg), true);
  };
  const all = [1, 1, 1, 1];
  return (
    <div
      className="crop"
      style={{
        left: view.x + rect.x * view.scale,
        top: view.y + rect.y * view.scale,
        width: rect.width * view.scale,
        height: rect.height * view.scale,
        transform: turnDeg ? `rotate(${turnDeg}deg)` : undefined,
      }}
    >
      <div
        className="crop-inside"
        role="button"
        tabIndex={0}
        aria-label="Crop region; arrow keys move it"
        onPointerDown={hold(all)}
        onKeyDown={nudge(all)}
      />
      {Object.entries(handles).map(([name, sides]) => (
        <button
          key={name}
          type="button"
          className={`crop-handle ${name.replace(' ', '-')}`}
          aria-label={`Crop ${name}; arrow keys move it`}
          onPointerDown={hold(sides)}
          onKeyDown={nudge(sides)}
        />
      ))}
    </div>
  );
}

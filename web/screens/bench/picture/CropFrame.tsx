import { useDrag } from '@use-gesture/react';
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

type Sides = readonly [number, number, number, number];

// Which sides a handle moves: left, top, right, bottom.
const handles: Record<string, Sides> = {
  'top left': [1, 1, 0, 0],
  top: [0, 1, 0, 0],
  'top right': [0, 1, 1, 0],
  right: [0, 0, 1, 0],
  'bottom right': [0, 0, 1, 1],
  bottom: [0, 0, 0, 1],
  'bottom left': [1, 0, 0, 1],
  left: [1, 0, 0, 0],
};
const ALL: Sides = [1, 1, 1, 1];

/** The crop region on the picture: drag its inside to move it, its eight handles to change it. */
export function CropFrame({ rect, turnDeg, width, height, view, onChange }: Props) {
  const sheet = { width, height, turnDeg };
  const bindDrag = useDrag(
    ({ event, args: [sides], movement: [mx, my], last, memo = rect }) => {
      event.stopPropagation();
      const now = moveSides(memo, sides as Sides, { dx: mx / view.scale, dy: my / view.scale }, sheet);
      const isMoved = mx !== 0 || my !== 0;
      if (isMoved) onChange(now, last);
      return memo as RectPx;
    },
    { pointer: { keys: false } },
  );
  const nudge = (sides: Sides) => (event: React.KeyboardEvent) => {
    const step = event.shiftKey ? 10 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    onChange(moveSides(rect, sides, { dx: by[0], dy: by[1] }, sheet), true);
  };
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
        {...bindDrag(ALL)}
        className="crop-inside"
        role="button"
        tabIndex={0}
        aria-label="Crop region; arrow keys move it"
        onKeyDown={nudge(ALL)}
      />
      {Object.entries(handles).map(([name, sides]) => (
        <button
          {...bindDrag(sides)}
          key={name}
          type="button"
          className={`crop-handle ${name.replace(' ', '-')}`}
          aria-label={`Crop ${name}; arrow keys move it`}
          onKeyDown={nudge(sides)}
        />
      ))}
    </div>
  );
}

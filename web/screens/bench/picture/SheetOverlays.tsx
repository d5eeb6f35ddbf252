import { useDrag } from '@use-gesture/react';
import { useState } from 'react';
import type { Corners } from '../../../../core/geometry/projective';
import type { MarkFact } from '../../../../core/stages/cutOutFacts';
import type { Place } from './frame';
import type { Viewport } from './useViewport';

const onScreen = (view: Viewport, p: Place) => ({ x: p.x * view.scale + view.x, y: p.y * view.scale + view.y });

/** Every mark found on the sheet, boxed along its own line of writing and numbered; a press takes it. */
export function CandidateBoxes({
  noun,
  marks,
  taken,
  view,
  onTake,
}: {
  noun: string;
  marks: readonly MarkFact[];
  taken: Place | null;
  view: Viewport;
  onTake: (mark: MarkFact) => void;
}) {
  return (
    <>
      {marks.map((m) => {
        const { region: r } = m;
        const isTaken = taken !== null && Math.hypot(m.at.x - taken.x, m.at.y - taken.y) < 2;
        return (
          <button
            key={m.number}
            type="button"
            className={`candidate${isTaken ? ' is-taken' : ''}`}
            aria-label={`${noun} ${m.number}${isTaken ? ', taken' : '; press to take it'}`}
            onClick={() => onTake(m)}
            style={{
              left: r.x * view.scale + view.x,
              top: r.y * view.scale + view.y,
              width: r.width * view.scale,
              height: r.height * view.scale,
              transform: `rotate(${m.angleDeg}deg)`,
            }}
          >
            <span className="chip">{m.number}</span>
          </button>
        );
      })}
    </>
  );
}

const names = ['top left', 'top right', 'bottom right', 'bottom left'];

/** The four corners of a sheet, each to be dragged to its place. */
export function CornerHandles({
  corners,
  view,
  onChange,
}: {
  corners: Corners;
  view: Viewport;
  onChange: (corners: Corners, isFinal: boolean) => void;
}) {
  const moved = (index: number, from: Corners, dx: number, dy: number) =>
    from.map((c, k) => (k === index ? { x: Math.round(c.x + dx), y: Math.round(c.y + dy) } : c)) as unknown as Corners;
  const bindDrag = useDrag(
    ({ event, args: [index], movement: [mx, my], last, memo = corners }) => {
      event.stopPropagation();
      if (mx !== 0 || my !== 0) onChange(moved(index as number, memo, mx / view.scale, my / view.scale), last);
      return memo as Corners;
    },
    { pointer: { keys: false } },
  );
  const shown = corners.map((c) => onScreen(view, c));
  return (
    <>
      <svg className="sheet-outline" aria-hidden="true">
        <polygon points={shown.map((p) => `${p.x},${p.y}`).join(' ')} />
      </svg>
      {shown.map((p, k) => (
        <button
          {...bindDrag(k)}
          key={names[k]}
          type="button"
          className="crop-handle corner"
          style={{ left: p.x, top: p.y }}
          aria-label={`Sheet’s ${names[k]} corner; arrow keys move it`}
          onKeyDown={(e) => {
            const step = e.shiftKey ? 10 : 1;
            const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[
              e.key
            ];
            if (!by) return;
            e.preventDefault();
            e.stopPropagation();
            onChange(moved(k, corners, by[0], by[1]), true);
          }}
        />
      ))}
    </>
  );
}

/** A shorter line tells no direction. */
const LEAST_LINE_PX = 12;

/** A line drawn along the writing: what is level from then on. */
export function LevelLine({ onDrawn }: { onDrawn: (angleDeg: number) => void }) {
  const [line, setLine] = useState<{ from: Place; to: Place } | null>(null);
  const bindDrag = useDrag(
    ({ event, currentTarget, initial, xy, last }) => {
      event.stopPropagation();
      const bounds = (currentTarget as HTMLElement).getBoundingClientRect();
      const at = ([x, y]: readonly number[]) => ({ x: x - bounds.left, y: y - bounds.top });
      const [from, to] = [at(initial), at(xy)];
      setLine(last ? null : { from, to });
      if (last && Math.hypot(to.x - from.x, to.y - from.y) > LEAST_LINE_PX) onDrawn(angleOf(from, to));
    },
    { pointer: { keys: false } },
  );
  return (
    <div {...bindDrag()} className="level-line" role="img" aria-label="Draw a line along the writing">
      {line && (
        <svg aria-hidden="true">
          <line x1={line.from.x} y1={line.from.y} x2={line.to.x} y2={line.to.y} />
        </svg>
      )}
    </div>
  );
}

// Whichever way it was drawn, a line leans by less than a quarter turn.
function angleOf(a: Place, b: Place): number {
  const deg = (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI;
  const folded = deg > 90 ? deg - 180 : deg < -90 ? deg + 180 : deg;
  return Math.round(Math.max(-45, Math.min(45, folded)) * 10) / 10;
}

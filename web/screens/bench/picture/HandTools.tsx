import { useEffect, useRef, useState } from 'react';
import type { Brush } from '../../../data/useBrush';
import type { Place } from './frame';
import { handKeys } from './handKeys';
import type { Viewport } from './useViewport';

interface SurfaceProps {
  readonly label: string;
  readonly view: Viewport;
}

/** Places as a hand draws them, on the screen. */
interface Drawn extends Place {
  readonly pressure: number;
}

const placeOf = (event: React.PointerEvent | PointerEvent, element: HTMLElement): Drawn => {
  const bounds = element.getBoundingClientRect();
  // A mouse has no pressure to tell.
  const pressure = event.pointerType === 'pen' ? Math.max(0.05, event.pressure) : 1;
  return { x: event.clientX - bounds.left, y: event.clientY - bounds.top, pressure };
};
const toFrame = ({ x, y }: Place, view: Viewport): Place => ({
  x: (x - view.x) / view.scale,
  y: (y - view.y) / view.scale,
});

interface BrushProps extends SurfaceProps {
  readonly brush: Brush;
  /** Screen px of a working-picture px. */
  readonly scale: number;
  /** Changes when what was drawn shows in the picture itself. */
  readonly settled: unknown;
  readonly colour: string;
  /** Frame places with their pressure. */
  readonly onStroke: (places: readonly Drawn[]) => void;
}

/**
 * Where a brush draws: its way shows at once on a canvas of its own, and stays there until the picture shows what came
 * of it. Hold Shift for a straight line from the last place.
 */
export function BrushSurface({ label, view, brush, scale, settled, colour, onStroke }: BrushProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const way = useRef<Drawn[] | null>(null);
  const last = useRef<Drawn | null>(null);
  const [at, setAt] = useState<Place | null>(null);
  const radius = (brush.size * scale) / 2;

  useEffect(() => {
    const element = canvas.current;
    if (element && way.current === null) element.getContext('2d')?.clearRect(0, 0, element.width, element.height);
  }, [settled, view]);

  const segment = (from: Drawn, to: Drawn) => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    context.strokeStyle = colour;
    context.lineCap = 'round';
    context.lineWidth = Math.max(1, radius * (from.pressure + to.pressure));
    context.beginPath();
    context.moveTo(from.x, from.y);
    context.lineTo(to.x + 0.01, to.y);
    context.stroke();
  };
  const start = (element: HTMLCanvasElement, from: Drawn, to: Drawn) => {
    if (element.width !== element.clientWidth || element.height !== element.clientHeight) {
      element.width = element.clientWidth;
      element.height = element.clientHeight;
    }
    way.current = from === to ? [to] : [from, to];
    segment(from, to);
  };
  const begin = (event: React.PointerEvent<HTMLCanvasElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const element = event.currentTarget;
    element.setPointerCapture(event.pointerId);
    const here = placeOf(event, element);
    start(element, event.shiftKey && last.current ? last.current : here, here);
  };
  const move = (event: React.PointerEvent<HTMLCanvasElement>) => {
    const element = event.currentTarget;
    const drawn = way.current;
    setAt(placeOf(event, element));
    if (!drawn) return;
    // Between two frames a pen tells of more places than one.
    const events = event.nativeEvent.getCoalescedEvents?.() ?? [];
    for (const one of events.length > 0 ? events : [event.nativeEvent]) {
      const here = placeOf(one, element);
      segment(drawn.at(-1) as Drawn, here);
      drawn.push(here);
    }
  };
  const end = () => {
    const drawn = way.current;
    if (!drawn) return;
    way.current = null;
    last.current = drawn.at(-1) ?? null;
    onStroke(drawn.map((p) => ({ ...toFrame(p, view), pressure: p.pressure })));
  };
  const onKeyDown = handKeys({
    at,
    onMove: (to) => {
      setAt(to);
      const drawn = way.current;
      if (!drawn) return;
      const here = { ...to, pressure: 1 };
      segment(drawn[drawn.length - 1], here);
      drawn.push(here);
    },
    onSet: (here) => {
      setAt(here);
      const place = { ...here, pressure: 1 };
      if (way.current) end();
      else if (canvas.current) start(canvas.current, place, place);
    },
  });
  return (
    <div className="hand-surface">
      <canvas
        ref={canvas}
        role="application"
        tabIndex={0}
        aria-label={label}
        onKeyDown={onKeyDown}
        onPointerDown={begin}
        onPointerMove={move}
        onPointerUp={end}
        onPointerCancel={end}
        onPointerLeave={() => setAt(null)}
      />
      {at && (
        <svg aria-hidden="true" className="brush-ring">
          <circle cx={at.x} cy={at.y} r={Math.max(1.5, radius)} />
          <circle cx={at.x} cy={at.y} r={Math.max(1.5, radius)} />
        </svg>
      )}
    </div>
  );
}

interface OutlineProps extends SurfaceProps {
  /** Frame places. */
  readonly onLoop: (places: readonly Place[]) => void;
  /** A press that draws nothing, where it means something of itself; otherwise it sets a corner. */
  readonly onPress?: (place: Place) => void;
}

/** Closer to the first corner than this closes the outline. */
const CLOSE_PX = 10;
const LEAST_STEP_PX = 2.5;

/**
 * Where an outline is drawn: freely in one go, or corner by corner with presses, closed by a press on the first corner
 * or by Enter. Backspace takes the last corner back.
 */
export function OutlineSurface({ label, view, onLoop, onPress }: OutlineProps) {
  const [corners, setCorners] = useState<readonly Place[]>([]);
  const [at, setAt] = useState<Place | null>(null);
  const free = useRef<Place[] | null>(null);
  const [drawn, setDrawn] = useState<readonly Place[]>([]);

  const finish = (places: readonly Place[]) => {
    setCorners([]);
    setDrawn([]);
    if (places.length >= 3) onLoop(places.map((p) => toFrame(p, view)));
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (corners.length === 0) return;
      if (event.key === 'Enter') finish(corners);
      else if (event.key === 'Backspace') setCorners(corners.slice(0, -1));
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  const begin = (event: React.PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    free.current = [placeOf(event, event.currentTarget)];
  };
  const move = (event: React.PointerEvent<HTMLDivElement>) => {
    const here = placeOf(event, event.currentTarget);
    setAt(here);
    const way = free.current;
    if (!way) return;
    const before = way[way.length - 1];
    if (Math.hypot(here.x - before.x, here.y - before.y) < LEAST_STEP_PX) return;
    way.push(here);
    setDrawn([...way]);
  };
  const end = () => {
    const way = free.current;
    free.current = null;
    if (!way) return;
    const [first] = way;
    if (way.length > 6) finish([...corners, ...way]);
    else if (onPress) {
      setDrawn([]);
      onPress(toFrame(first, view));
    } else if (corners.length >= 3 && Math.hypot(first.x - corners[0].x, first.y - corners[0].y) < CLOSE_PX)
      finish(corners);
    else {
      setDrawn([]);
      setCorners([...corners, first]);
    }
  };
  const shown = [...corners, ...(drawn.length > 0 ? drawn : at && corners.length > 0 ? [at] : [])];
  const points = shown.map((p) => `${p.x},${p.y}`).join(' ');
  const onKeyDown = handKeys({
    at,
    onMove: setAt,
    onSet: (here) => {
      setAt(here);
      if (onPress) onPress(toFrame(here, view));
      else setCorners([...corners, here]);
    },
  });
  return (
    <div
      className="hand-surface"
      role="application"
      tabIndex={0}
      aria-label={label}
      onKeyDown={onKeyDown}
      onPointerDown={begin}
      onPointerMove={move}
      onPointerUp={end}
      onPointerCancel={end}
    >
      <svg aria-hidden="true" className="outline-drawn">
        <polygon points={points} />
        {at && <path d={`M${at.x - 6} ${at.y}h12M${at.x} ${at.y - 6}v12`} />}
        {corners.map((p, k) => (
          <circle key={k} cx={p.x} cy={p.y} r={k === 0 ? 5 : 3} />
        ))}
      </svg>
    </div>
  );
}

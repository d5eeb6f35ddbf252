import { Button, Segmented, Slider } from 'antd';
import { useDrag } from '@use-gesture/react';
import { memo, useRef, useState } from 'react';
import { type PenPoint, penOutline } from '../../../core/vector/penStroke';
import { printPath } from '../../../core/vector/path';
import { InkSwatches } from './InkSwatches';

export interface Stroke {
  readonly points: readonly PenPoint[];
  readonly hasPressure: boolean;
}
export type Drawing = readonly Stroke[];
export interface Pen {
  readonly width: number;
  readonly thinning: number;
  readonly smoothing: number;
}

export const startPen: Pen = { width: 7, thinning: 0.6, smoothing: 0.5 };
/** The pad's own size: what is drawn keeps its place when the window changes. */
const PAD = { width: 1000, height: 460 };
const MOST_TRIES = 8;

interface Props {
  readonly tries: readonly Drawing[];
  readonly chosen: number;
  readonly pen: Pen;
  readonly colour: string;
  readonly palette: readonly { name: string; hex: string }[];
  readonly onTries: (tries: readonly Drawing[]) => void;
  readonly onChoose: (index: number) => void;
  readonly onPen: (pen: Pen) => void;
  readonly onColour: (hex: string) => void;
}

const outlineOf = (drawing: Drawing, pen: Pen): string => {
  const bySpeed = !drawing.some((s) => s.hasPressure);
  return drawing.map((s) => printPath(penOutline(s.points, { ...pen, bySpeed }), 2)).join('');
};

// Of the tries only the one under the hand changes: the others keep their outlines.
const Ink = memo(({ drawing, pen, colour }: { drawing: Drawing; pen: Pen; colour: string }) => (
  <path d={outlineOf(drawing, pen)} fill={colour} />
));
Ink.displayName = 'Ink';

/** A pad for mouse, pen and touch; several tries side by side to choose from. */
export function DrawPad({ tries, chosen, pen, colour, palette, onTries, onChoose, onPen, onColour }: Props) {
  const [tone, setTone] = useState<'light' | 'dark'>('light');
  const [live, setLive] = useState<Stroke | null>(null);
  const pad = useRef<SVGSVGElement>(null);
  const drawing = tries[chosen];
  const setDrawing = (next: Drawing) => onTries(tries.map((t, k) => (k === chosen ? next : t)));
  const read = (e: { clientX: number; clientY: number; pressure: number }): PenPoint => {
    const b = (pad.current as SVGSVGElement).getBoundingClientRect();
    const scale = Math.min(b.width / PAD.width, b.height / PAD.height);
    const [left, top] = [b.left + (b.width - PAD.width * scale) / 2, b.top + (b.height - PAD.height * scale) / 2];
    const round = (v: number) => Math.round(v * 10) / 10;
    return [round((e.clientX - left) / scale), round((e.clientY - top) / scale), e.pressure || 0.5];
  };
  const bindDrag = useDrag(
    ({ event, first, last, memo }) => {
      const e = event as PointerEvent;
      // A fast hand leaves several points between two frames.
      const seen = first ? [] : (e.getCoalescedEvents?.() ?? []);
      const before: Stroke = first ? { points: [], hasPressure: e.pointerType === 'pen' } : (memo as Stroke);
      const stroke = { ...before, points: [...before.points, ...(seen.length ? seen : [e]).map(read)] };
      if (last) setDrawing([...drawing, before]);
      setLive(last ? null : stroke);
      return stroke;
    },
    { pointer: { keys: false } },
  );
  return (
    <section className="pad" aria-label="Pad">
      <div className="pad-tools">
        <Segmented
          size="small"
          aria-label="Pad’s tone"
          value={tone}
          onChange={(v) => setTone(v as 'light' | 'dark')}
          options={[
            { value: 'light', label: 'light pad' },
            { value: 'dark', label: 'dark pad' },
          ]}
        />
        <InkSwatches colour={colour} palette={palette} onColour={onColour} />
        <span className="pad-space" />
        <Button size="small" disabled={drawing.length === 0} onClick={() => setDrawing(drawing.slice(0, -1))}>
          Undo
        </Button>
        <Button size="small" disabled={drawing.length === 0} onClick={() => setDrawing([])}>
          Clear
        </Button>
      </div>
      <svg
        {...bindDrag()}
        ref={pad}
        className={`pad-sheet ${tone}`}
        viewBox={`0 0 ${PAD.width} ${PAD.height}`}
        role="img"
        aria-label="Sign here"
      >
        <line x1={60} x2={940} y1={330} y2={330} className="pad-line" />
        <Ink drawing={live ? [...drawing, live] : drawing} pen={pen} colour={colour} />
      </svg>
      <div className="pad-pen">
        <PenSlider
          label="Ink width"
          min={1}
          max={24}
          step={0.5}
          value={pen.width}
          onChange={(width) => onPen({ ...pen, width })}
        />
        <PenSlider
          label="Pressure or speed"
          min={0}
          max={1}
          step={0.05}
          value={pen.thinning}
          onChange={(thinning) => onPen({ ...pen, thinning })}
        />
        <PenSlider
          label="Smoothing"
          min={0}
          max={1}
          step={0.05}
          value={pen.smoothing}
          onChange={(smoothing) => onPen({ ...pen, smoothing })}
        />
      </div>
      <div className="pad-tries" role="group" aria-label="Tries">
        {tries.map((t, k) => (
          <button
            key={k}
            type="button"
            className={`pad-try ${tone}`}
            aria-pressed={k === chosen}
            aria-label={`Try ${k + 1}`}
            onClick={() => onChoose(k)}
          >
            <svg viewBox={`0 0 ${PAD.width} ${PAD.height}`} aria-hidden="true">
              <Ink drawing={t} pen={pen} colour={colour} />
            </svg>
          </button>
        ))}
        {tries.length < MOST_TRIES && (
          <button
            type="button"
            className="pad-try is-new"
            disabled={drawing.length === 0}
            onClick={() => {
              onTries([...tries, []]);
              onChoose(tries.length);
            }}
          >
            Another try
          </button>
        )}
      </div>
    </section>
  );
}

function PenSlider({
  label,
  value,
  min,
  max,
  step,
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="pad-slider">
      <b>{label}</b>
      <Slider ariaLabelForHandle={label} min={min} max={max} step={step} value={value} onChange={onChange} />
    </label>
  );
}

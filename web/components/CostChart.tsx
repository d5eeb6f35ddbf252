import { useDrag } from '@use-gesture/react';
import { useMemo, useRef } from 'react';
import { ComposedChart, Line, ReferenceArea, ReferenceLine, XAxis, YAxis } from 'recharts';

interface Cost {
  readonly at: readonly number[];
  readonly share: readonly number[];
  readonly words: string;
  /** Costs what belongs to the mark: drawn as a warning. */
  readonly isLoss?: boolean;
}

export interface CostChartProps {
  readonly label: string;
  readonly value: number;
  readonly most: number;
  readonly steps: { readonly small: number; readonly large: number };
  readonly steady: { readonly from: number; readonly to: number };
  /** What the setting costs on either side; shares 0..1. */
  readonly costs: readonly [Cost, Cost];
  /** Where on the axis a value stands, 0..1, and back. */
  readonly scale?: { readonly to: (value: number) => number; readonly from: (share: number) => number };
  readonly words: (value: number) => string;
  readonly onPreview: (value: number) => void;
  readonly onCommit: (value: number) => void;
}

const WIDTH = 280;
const HEIGHT = 52;
/** Shares are small where it matters, so their height is this root of them. */
const ROOT = 0.25;

/** What a setting costs on both sides, with the steady range; a handle to set it. */
export function CostChart(props: CostChartProps) {
  const { label, value, most, steps, steady, costs, scale, words, onPreview, onCommit } = props;
  const box = useRef<HTMLDivElement>(null);
  const to = scale?.to ?? ((v: number) => v / most);
  const from = scale?.from ?? ((s: number) => s * most);
  const x = (v: number) => Math.min(1, Math.max(0, to(v)));
  const round = (v: number) => Math.min(most, Math.max(0, Math.round(v / steps.small) * steps.small));
  const read = (clientX: number) => {
    const bounds = (box.current as HTMLDivElement).getBoundingClientRect();
    return round(from(Math.min(1, Math.max(0, (clientX - bounds.left) / bounds.width))));
  };
  const bindDrag = useDrag(
    ({ xy: [clientX], first, last, memo }) => {
      const now = read(clientX);
      if (first || now !== memo) onPreview(now);
      if (last) onCommit(now);
      return now;
    },
    { pointer: { keys: false } },
  );
  const lines = useMemo(
    () => costs.map((c) => c.share.map((s, k) => ({ x: to(c.at[k]), y: Math.min(1, Math.max(0, s)) ** ROOT }))),
    // The scale is as fixed as the chart's place in the panel.
    [costs],
  );
  const isSteady = value >= steady.from && value <= steady.to;
  return (
    <div className="cost">
      <div
        {...bindDrag()}
        ref={box}
        className="cost-field"
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={most}
        aria-valuenow={value}
        aria-valuetext={`${words(value)}${isSteady ? ', in the steady range' : ', outside the steady range'}`}
        onKeyDown={(e) => {
          const step = {
            ArrowLeft: -steps.small,
            ArrowDown: -steps.small,
            ArrowRight: steps.small,
            ArrowUp: steps.small,
            PageUp: steps.large,
            PageDown: -steps.large,
          }[e.key];
          if (!step) return;
          e.preventDefault();
          onCommit(round(value + step));
        }}
      >
        <ComposedChart width={WIDTH} height={HEIGHT} margin={MARGIN} accessibilityLayer={false}>
          <XAxis type="number" dataKey="x" domain={[0, 1]} hide allowDataOverflow />
          <YAxis type="number" domain={[0, 1]} hide />
          <ReferenceArea
            x1={x(steady.from)}
            x2={Math.max(x(steady.to), x(steady.from) + 0.008)}
            className="cost-steady"
          />
          {costs.map((c, k) => (
            <Line
              key={c.words}
              data={lines[k]}
              dataKey="y"
              dot={false}
              activeDot={false}
              isAnimationActive={false}
              className={c.isLoss ? 'cost-loss' : 'cost-left'}
            />
          ))}
          <ReferenceLine y={0} className="cost-axis" />
          <ReferenceLine x={x(value)} className="cost-hand" />
        </ComposedChart>
      </div>
      <span className="cost-knob" style={{ left: `${x(value) * 100}%` }} aria-hidden="true" />
      <div className="cost-words small">
        {costs.map((c) => (
          <span key={c.words} className={c.isLoss ? 'warn' : 'soft'}>
            {c.words}
          </span>
        ))}
      </div>
    </div>
  );
}

const MARGIN = { top: 4, right: 0, bottom: 2, left: 0 };

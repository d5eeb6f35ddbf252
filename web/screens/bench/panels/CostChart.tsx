import { useRef } from 'react';

interface Cost {
  readonly at: readonly number[];
  readonly share: readonly number[];
  readonly words: string;
  readonly isEaten?: boolean;
}

interface Props {
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
// Shares are small where it matters, so the height is their fourth root.
const y = (share: number) => HEIGHT - 2 - (HEIGHT - 6) * Math.min(1, Math.max(0, share)) ** 0.25;

/** What a setting costs on both sides, with the steady range; a handle to set it. */
export function CostChart({ label, value, most, steps, steady, costs, scale, words, onPreview, onCommit }: Props) {
  const box = useRef<SVGSVGElement>(null);
  const held = useRef<number | null>(null);
  const to = scale?.to ?? ((v: number) => v / most);
  const from = scale?.from ?? ((s: number) => s * most);
  const x = (v: number) => Math.min(1, Math.max(0, to(v))) * WIDTH;
  const round = (v: number) => Math.min(most, Math.max(0, Math.round(v / steps.small) * steps.small));
  const read = (clientX: number) => {
    const bounds = (box.current as SVGSVGElement).getBoundingClientRect();
    return round(from(Math.min(1, Math.max(0, (clientX - bounds.left) / bounds.width))));
  };
  const line = ({ at, share }: Cost) =>
    share.map((s, k) => `${k ? 'L' : 'M'}${x(at[k]).toFixed(1)} ${y(s).toFixed(1)}`).join('');
  const isSteady = value >= steady.from && value <= steady.to;
  return (
    <div className="cost">
      <svg
        ref={box}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={most}
        aria-valuenow={value}
        aria-valuetext={`${words(value)}${isSteady ? ', in the steady range' : ', outside the steady range'}`}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          held.current = read(e.clientX);
          onPreview(held.current);
        }}
        onPointerMove={(e) => {
          if (held.current !== null && read(e.clientX) !== held.current) {
            held.current = read(e.clientX);
            onPreview(held.current);
          }
        }}
        onPointerUp={() => {
          if (held.current !== null) onCommit(held.current);
          held.current = null;
        }}
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
        <rect
          x={x(steady.from)}
          y={0}
          width={Math.max(2, x(steady.to) - x(steady.from))}
          height={HEIGHT - 2}
          className="cost-steady"
        />
        {costs.map((c) => (
          <path key={c.words} d={line(c)} className={c.isEaten ? 'cost-eaten' : 'cost-left'} />
        ))}
        <line x1={0} x2={WIDTH} y1={HEIGHT - 1.5} y2={HEIGHT - 1.5} className="cost-axis" />
        <line x1={x(value)} x2={x(value)} y1={0} y2={HEIGHT} className="cost-hand" />
      </svg>
      <span className="cost-knob" style={{ left: `${(x(value) / WIDTH) * 100}%` }} aria-hidden="true" />
      <div className="cost-words small">
        {costs.map((c) => (
          <span key={c.words} className={c.isEaten ? 'warn' : 'soft'}>
            {c.words}
          </span>
        ))}
      </div>
    </div>
  );
}

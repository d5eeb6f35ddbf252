import { useRef } from 'react';
import type { CutOutFacts } from '../../../../core/stages/cutOut';

interface Props {
  readonly facts: CutOutFacts;
  readonly value: number;
  readonly onPreview: (value: number) => void;
  readonly onCommit: (value: number) => void;
}

const WIDTH = 280;
const HEIGHT = 52;
const MOST = 96;
const x = (t: number) => (t / MOST) * WIDTH;
// Shares are small where it matters, so the height is their fourth root.
const y = (share: number) => HEIGHT - 2 - (HEIGHT - 6) * Math.min(1, share) ** 0.25;
const line = (shares: readonly number[]) => shares.map((s, t) => `${t ? 'L' : 'M'}${x(t).toFixed(1)} ${y(s).toFixed(1)}`).join('');

/** What the tolerance costs on both sides, with the steady range; a handle to set it. */
export function ToleranceChart({ facts, value, onPreview, onCommit }: Props) {
  const box = useRef<SVGSVGElement>(null);
  const held = useRef<number | null>(null);
  const read = (clientX: number) => {
    const bounds = (box.current as SVGSVGElement).getBoundingClientRect();
    return Math.round(Math.min(1, Math.max(0, (clientX - bounds.left) / bounds.width)) * MOST);
  };
  const { from, to } = facts.steady;
  return (
    <div className="tolerance">
      <svg
        ref={box} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" role="slider" tabIndex={0} aria-label="Tolerance" aria-valuemin={0} aria-valuemax={MOST} aria-valuenow={value}
        aria-valuetext={`${value} levels${value >= from && value <= to ? ', in the steady range' : ', outside the steady range'}`}
        onPointerDown={(e) => { e.currentTarget.setPointerCapture(e.pointerId); held.current = read(e.clientX); onPreview(held.current); }}
        onPointerMove={(e) => { if (held.current !== null && read(e.clientX) !== held.current) { held.current = read(e.clientX); onPreview(held.current); } }}
        onPointerUp={() => { if (held.current !== null) onCommit(held.current); held.current = null; }}
        onKeyDown={(e) => {
          const step = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageUp: 8, PageDown: -8 }[e.key];
          if (!step) return;
          e.preventDefault();
          onCommit(Math.min(MOST, Math.max(0, value + step)));
        }}
      >
        <rect x={x(from)} y={0} width={Math.max(2, x(to) - x(from))} height={HEIGHT - 2} className="tolerance-steady" />
        <path d={line(facts.groundLeft)} className="tolerance-left" />
        <path d={line(facts.artworkEaten)} className="tolerance-eaten" />
        <line x1={0} x2={WIDTH} y1={HEIGHT - 1.5} y2={HEIGHT - 1.5} className="tolerance-axis" />
        <line x1={x(value)} x2={x(value)} y1={0} y2={HEIGHT} className="tolerance-hand" />
      </svg>
      <span className="tolerance-knob" style={{ left: `${(value / MOST) * 100}%` }} aria-hidden="true" />
      <div className="tolerance-words small"><span className="soft">ground left</span><span className="warn">artwork eaten</span></div>
    </div>
  );
}

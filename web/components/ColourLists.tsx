import './colourLists.css';
import { createContext, useContext, useRef, useState } from 'react';
import type { PairValue, StopValue } from '../../core/params';
import type { NamedGradient } from '../../contract/views';
import { ColourChoice } from './ColourChoice';

/** The gradients of the brand at hand, offered wherever a gradient is set. */
export const GradientsContext = createContext<readonly NamedGradient[]>([]);

interface ListProps<T> {
  readonly label: string;
  readonly value: readonly T[];
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  readonly onCommit: (value: T[]) => void;
}

const MOST_STOPS = 12;
const STEP = 0.02;
const clamp = (v: number) => Math.min(1, Math.max(0, Math.round(v * 100) / 100));
const inOrder = (stops: readonly StopValue[]) => [...stops].sort((a, b) => a.at - b.at);

/** A gradient as a bar shows it. */
export const barOf = (stops: readonly StopValue[]) =>
  `linear-gradient(90deg, ${stops.map((s) => `${s.colour} ${s.at * 100}%`).join(', ')})`;

/** The colours of a gradient: stops on a bar, dragged or moved by the arrow keys; their colours beneath. */
export function StopsControl({ label, value, palette, onCommit }: ListProps<StopValue>) {
  const bar = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<{ k: number; at: number } | null>(null);
  const at = (k: number) => (held?.k === k ? held.at : value[k].at);
  const move = (k: number, to: number) =>
    onCommit(inOrder(value.map((s, n) => (n === k ? { ...s, at: clamp(to) } : s))));
  const read = (clientX: number) => {
    const bounds = (bar.current as HTMLDivElement).getBoundingClientRect();
    return clamp((clientX - bounds.left) / bounds.width);
  };
  const named = useContext(GradientsContext);
  return (
    <div className="stops" role="group" aria-label={label}>
      <div className="stops-bar" ref={bar} style={{ background: barOf(value.map((s, k) => ({ ...s, at: at(k) }))) }}>
        {value.map((stop, k) => (
          <button
            key={k}
            type="button"
            role="slider"
            aria-label={`Stop ${k + 1}, ${stop.colour.toUpperCase()}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(at(k) * 100)}
            style={{ left: `${at(k) * 100}%` }}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              setHeld({ k, at: stop.at });
            }}
            onPointerMove={(e) => held?.k === k && setHeld({ k, at: read(e.clientX) })}
            onPointerUp={() => {
              if (held && held.at !== stop.at) move(k, held.at);
              setHeld(null);
            }}
            onKeyDown={(e) => {
              const step = { ArrowLeft: -STEP, ArrowDown: -STEP, ArrowRight: STEP, ArrowUp: STEP }[e.key];
              if (!step) return;
              e.preventDefault();
              move(k, stop.at + step);
            }}
          />
        ))}
      </div>
      <ul>
        {value.map((stop, k) => (
          <li key={k}>
            <ColourChoice
              hex={stop.colour}
              name={`Colour of stop ${k + 1}`}
              palette={palette}
              onChange={(colour) => onCommit(value.map((s, n) => (n === k ? { ...s, colour } : s)))}
            />
            <span className="soft small">{Math.round(at(k) * 100)} %</span>
            {value.length > 2 && (
              <button
                type="button"
                className="plain small"
                aria-label={`Take stop ${k + 1} out`}
                onClick={() => onCommit(value.filter((_, n) => n !== k))}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ul>
      <div className="panel-row">
        {value.length < MOST_STOPS && (
          <button
            type="button"
            className="plain small"
            onClick={() => {
              const [a, b] = value.slice(-2);
              onCommit(inOrder([...value, { at: clamp((a.at + b.at) / 2), colour: a.colour }]));
            }}
          >
            Another colour
          </button>
        )}
        <button
          type="button"
          className="plain small"
          onClick={() => onCommit([...value].reverse().map((s) => ({ ...s, at: clamp(1 - s.at) })))}
        >
          Turn round
        </button>
      </div>
      {named.length > 0 && (
        <div className="stops-named" role="group" aria-label="Gradients of the brand">
          {named.map((g) => (
            <button
              key={g.name}
              type="button"
              aria-label={g.name}
              title={g.name}
              style={{ background: barOf(g.stops) }}
              onClick={() => onCommit(g.stops.map((s) => ({ ...s })))}
            />
          ))}
        </div>
      )}
    </div>
  );
}

/** What becomes of each of some colours: another, or nothing. */
export function PairsControl({ label, value, palette, onCommit }: ListProps<PairValue>) {
  const replace = (k: number, pair: PairValue) => onCommit(value.map((p, n) => (n === k ? pair : p)));
  return (
    <div className="stops" role="group" aria-label={label}>
      <ul>
        {value.map((pair, k) => (
          <li key={k}>
            <ColourChoice
              hex={pair.from}
              name={`Colour ${k + 1} of the mark`}
              palette={palette}
              onChange={(from) => replace(k, 'to' in pair ? { from, to: pair.to } : { from, clear: true })}
            />
            <span aria-hidden="true">→</span>
            {'to' in pair ? (
              <ColourChoice
                hex={pair.to}
                name="Becomes"
                palette={palette}
                onChange={(to) => replace(k, { from: pair.from, to })}
              />
            ) : (
              <span className="soft small">left out</span>
            )}
            <button
              type="button"
              className="plain small"
              onClick={() =>
                replace(k, 'to' in pair ? { from: pair.from, clear: true } : { from: pair.from, to: pair.from })
              }
            >
              {'to' in pair ? 'Leave out' : 'Keep'}
            </button>
            <button
              type="button"
              className="plain small"
              aria-label={`Take row ${k + 1} out`}
              onClick={() => onCommit(value.filter((_, n) => n !== k))}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="plain small"
        onClick={() => onCommit([...value, { from: palette[0]?.hex ?? '#000000', to: '#ffffff' }])}
      >
        Another colour
      </button>
    </div>
  );
}

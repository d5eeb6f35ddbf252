import { Button, InputNumber } from 'antd';
import { useState } from 'react';
import { boxRound } from '../../../../core/vector/boxes';
import type { MarkFact } from '../../../../core/stages/cutOutFacts';

interface Props {
  readonly found: readonly MarkFact[];
  readonly taken: MarkFact | null;
  readonly hasChosen: boolean;
  readonly noun: string;
  readonly isBusy: boolean;
  readonly gap: number | null;
  readonly onGap: (gap: number | null) => void;
  readonly onTake: (mark: MarkFact) => void;
  readonly onWhole: () => void;
  readonly onMakeMarks: (marks: readonly MarkFact[]) => void;
}

/** What was found on a sheet: one is taken, or each becomes a mark. Drawn pictures are joined and parted by hand. */
export function FoundMarks(props: Props) {
  const { found, taken, hasChosen, noun, isBusy, gap, onGap, onTake, onWhole, onMakeMarks } = props;
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const isDrawn = gap !== null || found[0]?.drawn !== undefined;
  const together = found.filter((m) => ticked.has(m.number));
  const joined = together.length > 1 ? joinMarks(together) : null;
  const parts = joined ? [joined, ...found.filter((m) => !ticked.has(m.number))] : found;
  return (
    <section className="areas" aria-label={`${noun}s found`}>
      <div className="panel-row">
        <b>{noun}s found</b>
        <span>{found.length}</span>
      </div>
      {isDrawn && (
        <div className="panel-row">
          <span className="soft small">A gap parts them from</span>
          <InputNumber
            size="small"
            aria-label="Gap between pictures"
            min={0.2}
            max={16}
            step={0.5}
            suffix="%"
            placeholder="found"
            value={gap === null ? null : Math.round(gap * 1000) / 10}
            style={{ width: 92 }}
            onChange={(v) => {
              setTicked(new Set());
              onGap(v === null ? null : v / 100);
            }}
          />
        </div>
      )}
      <div className="panel-links">
        {joined && (
          <button type="button" className="plain small" onClick={() => onTake(joined)}>
            Take the {together.length} as one
          </button>
        )}
        {hasChosen && (
          <button type="button" className="plain small" onClick={onWhole}>
            Whole sheet again
          </button>
        )}
        <button type="button" className="plain small" disabled={isBusy} onClick={() => onMakeMarks(parts)}>
          Make each a separate mark
        </button>
      </div>
      <ul>
        {found.map((m) => (
          <li key={m.number}>
            {isDrawn && (
              <input
                type="checkbox"
                aria-label={`Join ${noun.toLowerCase()} ${m.number} with others`}
                checked={ticked.has(m.number)}
                onChange={() => {
                  const next = new Set(ticked);
                  if (!next.delete(m.number)) next.add(m.number);
                  setTicked(next);
                }}
              />
            )}
            <span className={`chip${m === taken ? ' is-taken' : ''}`}>{m.number}</span>
            <span className="areas-words">
              {m.width} × {m.height} px{Math.abs(m.angleDeg) >= 0.4 && `, ${leaning(m.angleDeg)}`}
            </span>
            {m === taken ? (
              <span className="soft small">taken</span>
            ) : (
              <Button size="small" aria-label={`Take ${noun.toLowerCase()} ${m.number}`} onClick={() => onTake(m)}>
                Take
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Several drawn pictures as one. */
export function joinMarks(marks: readonly MarkFact[]): MarkFact {
  const [first] = marks;
  const box = boxRound(marks);
  const roomPx = Math.min(...marks.map((m) => m.drawn?.roomPx ?? Infinity));
  return { ...first, ...box, region: box, drawn: { roomPx, isBacked: marks.some((m) => m.drawn?.isBacked) } };
}

export const leaning = (deg: number) => `${Math.abs(deg).toFixed(1)}° ${deg < 0 ? 'uphill' : 'downhill'}`;

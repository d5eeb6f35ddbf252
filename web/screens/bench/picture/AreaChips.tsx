import type { AreaFact } from '../../../../core/stages/cutOut';
import type { Viewport } from './useViewport';

const MOST_CHIPS = 60;

interface Props {
  readonly areas: readonly AreaFact[];
  readonly view: Viewport;
  readonly hiddenLeftOf: number | null;
  readonly onToggle: (x: number, y: number, decision: 'open' | 'solid') => void;
}

/** Numbered chips tying each unsure enclosed area to its place; a press turns it from open to solid or back. */
export function AreaChips({ areas, view, hiddenLeftOf, onToggle }: Props) {
  const shown = areas.filter((a) => a.isUnsure || a.isChosen).slice(0, MOST_CHIPS);
  return (
    <>
      {shown.map((a) => {
        const x = a.x * view.scale + view.x;
        const y = a.y * view.scale + view.y;
        if (hiddenLeftOf !== null && x < hiddenLeftOf) return null;
        const other = a.decision === 'open' ? 'solid' : 'open';
        return (
          <button
            key={a.number} type="button" className={`chip on-picture${a.isUnsure ? ' is-unsure' : ''}`} style={{ left: x, top: y }} onPointerDown={(e) => e.stopPropagation()}
            onClick={() => onToggle(a.x, a.y, other)} aria-label={`Area ${a.number} is ${a.decision}; make it ${other}`} title={`${a.decision}; click for ${other}`}
          >
            {a.number}
          </button>
        );
      })}
    </>
  );
}

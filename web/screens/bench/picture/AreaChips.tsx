import { markedOf } from '../../../../core/stages/areaChoices';
import type { AreaFact } from '../../../../core/stages/cutOutFacts';
import type { Place } from './frame';
import type { Viewport } from './useViewport';

const MOST_CHIPS = 60;

interface Props {
  readonly areas: readonly AreaFact[];
  readonly view: Viewport;
  readonly toFrame: (p: Place) => Place;
  readonly hiddenLeftOf: number | null;
  readonly onChoose: (areas: readonly AreaFact[], decision: 'open' | 'solid') => void;
}

/** Numbered chips tying each question to its place; a press turns what it is about from open to solid or back. */
export function AreaChips({ areas, view, toFrame, hiddenLeftOf, onChoose }: Props) {
  const shown = markedOf(areas).slice(0, MOST_CHIPS);
  return (
    <>
      {shown.map(({ lead: a, areas: together }) => {
        const at = toFrame(a);
        const x = at.x * view.scale + view.x;
        if (hiddenLeftOf !== null && x < hiddenLeftOf) return null;
        const other = a.decision === 'open' ? 'solid' : 'open';
        return (
          <button
            key={`${a.x},${a.y}`}
            type="button"
            data-area={a.number}
            className={`chip on-picture${a.isUnsure ? ' is-unsure' : ''}`}
            style={{ left: x, top: at.y * view.scale + view.y }}
            onClick={() => onChoose(together, other)}
            aria-label={
              together.length > 1
                ? `Area ${a.number} and ${together.length - 1} more are ${a.decision}; make them ${other}`
                : `Area ${a.number} is ${a.decision}; make it ${other}`
            }
            title={`${a.decision}; click for ${other}`}
          >
            {a.number}
          </button>
        );
      })}
    </>
  );
}

import { ColourChoice } from '../../../components/ColourChoice';
import { useState } from 'react';
import type { PieceFact } from '../../../../core/stages/tidyFacts';
import type { ColourGroup } from '../../../../core/tidy/colourGroups';

interface Props {
  readonly groups: readonly ColourGroup<PieceFact>[];
  /** The colour whose pieces are picked. */
  readonly picked: string | null;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** The mark itself, which is dropped with no others. */
  readonly largest?: PieceFact;
  readonly onPick: (hex: string | null) => void;
  readonly onDrop: (group: ColourGroup<PieceFact>) => void;
  readonly onKeep: (group: ColourGroup<PieceFact>) => void;
  readonly onRecolour: (group: ColourGroup<PieceFact>, hex: string) => void;
}

const MOST_GROUPS = 12;

/** Pieces by their colour: a press picks all of one, to be dropped, kept or given another colour together. */
export function PieceColours({ groups, picked, palette, largest, onPick, onDrop, onKeep, onRecolour }: Props) {
  const own = groups.find((g) => g.hex === picked) ?? null;
  const droppable = own?.pieces.filter((p) => p !== largest && !p.dropped).length ?? 0;
  const dropped = own?.pieces.filter((p) => p.dropped).length ?? 0;
  const [next, setNext] = useState('#1c1b1d');
  return (
    <div className="panel-field" role="group" aria-label="Pieces by colour">
      <b>By colour</b>
      <div className="tidy-tools">
        {groups.slice(0, MOST_GROUPS).map((group) => (
          <button
            key={group.hex}
            type="button"
            className="pill piece-colour"
            aria-pressed={group === own}
            aria-label={`${countOf(group.pieces.length)} of ${group.hex.toUpperCase()}`}
            onClick={() => onPick(group === own ? null : group.hex)}
          >
            <i style={{ background: group.hex }} />
            {group.pieces.length}
          </button>
        ))}
      </div>
      {own && (
        <div className="panel-row piece-colour-acts">
          {droppable > 0 && (
            <button type="button" className="plain small" onClick={() => onDrop(own)}>
              Drop {countOf(droppable)}
            </button>
          )}
          {dropped > 0 && (
            <button type="button" className="plain small" onClick={() => onKeep(own)}>
              Keep {countOf(dropped)}
            </button>
          )}
          <ColourChoice
            name="Another colour"
            hex={next}
            palette={palette}
            onPreview={setNext}
            onChange={(hex) => onRecolour(own, hex)}
          >
            <button type="button" className="plain small">
              Another colour
            </button>
          </ColourChoice>
        </div>
      )}
    </div>
  );
}

const countOf = (n: number) => (n === 1 ? '1 piece' : `${n} pieces`);

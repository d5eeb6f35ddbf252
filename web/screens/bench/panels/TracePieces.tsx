import { useState } from 'react';
import type { PieceOfTrace } from '../../../../core/stages/traceFacts';
import { ColourChoice } from '../../../components/ColourChoice';

interface Props {
  readonly pieces: readonly PieceOfTrace[];
  /** How many there are, where not all are told. */
  readonly count: number;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** Numbers of those picked; null while none can be. */
  readonly picked: ReadonlySet<number> | null;
  readonly onPick: (picked: ReadonlySet<number> | null) => void;
  /** Another colour for some, null to leave them out, undefined to take back what was changed. */
  readonly onPieces: (
    pieces: readonly PieceOfTrace[],
    to: (piece: PieceOfTrace) => string | null | undefined,
    why: string,
  ) => void;
}

const MOST_LISTED = 200;

/** Single pieces of the outlines: picked on the picture, by colour or from a list, and changed together. */
export function TracePieces({ pieces, count, palette, picked, onPick, onPieces }: Props) {
  const [isListed, setListed] = useState(false);
  const [next, setNext] = useState('#1c1b1d');
  const own = picked ? [...picked].flatMap((k) => (pieces[k] ? [pieces[k]] : [])) : [];
  const words = own.length === 1 ? 'a piece' : `${own.length} pieces`;
  const alike = new Set(own.map((p) => p.found));
  const small = pieces
    .map((piece, k) => ({ piece, k }))
    .sort((a, b) => a.piece.areaPx - b.piece.areaPx)
    .slice(0, MOST_LISTED);
  const toggle = (k: number) => {
    const set = new Set(picked ?? []);
    if (!set.delete(k)) set.add(k);
    onPick(set);
  };
  return (
    <section className="panel-field" aria-label="Pieces of the outlines">
      <div className="panel-row">
        <b>Pieces</b>
        <span className="soft small">{own.length > 0 ? `${own.length} of ${count} picked` : count}</span>
      </div>
      <div className="tidy-tools">
        <button
          type="button"
          className="pill"
          aria-pressed={picked !== null}
          onClick={() => onPick(picked ? null : new Set())}
        >
          Pick on the picture
        </button>
        <button type="button" className="pill" aria-pressed={isListed} onClick={() => setListed(!isListed)}>
          List
        </button>
      </div>
      {own.length > 0 && (
        <div className="tidy-tools piece-acts">
          <button type="button" className="plain small" onClick={() => onPieces(own, () => null, `Leave out ${words}`)}>
            Leave out
          </button>
          <button
            type="button"
            className="plain small"
            title="Drawn in the colour that lies round each; left out where nothing does"
            onClick={() => onPieces(own, (p) => p.beside, `Cover ${words} with the colour beside`)}
          >
            Cover with the colour beside
          </button>
          <ColourChoice
            name="Another colour"
            hex={next}
            palette={palette}
            onPreview={setNext}
            onChange={(hex) => onPieces(own, () => hex, `Draw ${words} in ${hex}`)}
          >
            <button type="button" className="plain small">
              Another colour
            </button>
          </ColourChoice>
          {own.some((p) => p.isChanged) && (
            <button
              type="button"
              className="plain small"
              onClick={() => onPieces(own, () => undefined, `Put back ${words}`)}
            >
              As found
            </button>
          )}
          <button
            type="button"
            className="plain small"
            onClick={() => onPick(new Set(pieces.flatMap((p, k) => (alike.has(p.found) ? [k] : []))))}
          >
            All of this colour
          </button>
        </div>
      )}
      {isListed && (
        <ul className="traced-colours" aria-label="Pieces, the smallest first">
          {small.map(({ piece, k }) => (
            <li key={k} className={piece.isDropped ? 'is-dropped' : ''}>
              <label>
                <input type="checkbox" checked={picked?.has(k) ?? false} onChange={() => toggle(k)} />
                <span className="swatch">
                  <i style={{ background: piece.hex }} />
                  <span>{sizeOf(piece.areaPx)} px</span>
                </span>
              </label>
              {piece.isDropped && <span className="soft small">left out</span>}
              {piece.isChanged && !piece.isDropped && <span className="soft small">changed</span>}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

const sizeOf = (v: number) => (v < 100 ? Math.round(v * 10) / 10 : Math.round(v).toLocaleString('en'));

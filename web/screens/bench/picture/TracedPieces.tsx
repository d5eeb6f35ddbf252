import type { PieceOfTrace } from '../../../../core/stages/traceFacts';
import type { Viewport } from './useViewport';

interface Props {
  readonly pieces: readonly PieceOfTrace[];
  readonly picked: ReadonlySet<number>;
  readonly view: Viewport;
}

/** Outlines of all pieces, faint, and of those that are picked, strong; what was left out is dashed. */
export function TracedPieces({ pieces, picked, view }: Props) {
  return (
    <svg className="traced-pieces" aria-hidden="true">
      <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
        {pieces.map((piece, k) => (
          <path
            key={k}
            d={piece.d}
            fillRule="evenodd"
            className={[picked.has(k) ? 'is-picked' : '', piece.isDropped ? 'is-dropped' : ''].join(' ').trim()}
          />
        ))}
      </g>
    </svg>
  );
}

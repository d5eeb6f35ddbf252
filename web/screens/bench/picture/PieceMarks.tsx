import type { RectPx } from '../../../../core/params';
import type { PieceFact, TidyFacts } from '../../../../core/stages/tidyFacts';
import type { PictureTools } from '../Bench';
import type { Place } from './frame';

/** Smaller on the screen than this a piece is ringed, so that it is seen at all. */
const SMALL_PX = 26;
const MOST_RINGS = 120;

interface Props {
  readonly facts: TidyFacts;
  /** Pieces that are picked together. */
  readonly picked?: readonly PieceFact[];
  readonly tools: PictureTools;
  readonly onFlip: (piece: PieceFact) => void;
}

/** Small and faint pieces ringed, what was dropped struck out, and the extents before and after. */
export function PieceMarks({ facts, picked, tools, onFlip }: Props) {
  const { view, toFrame } = tools;
  const onScreen = (p: Place) => {
    const f = toFrame(p);
    return { x: f.x * view.scale + view.x, y: f.y * view.scale + view.y };
  };
  const boxOnScreen = (b: { x: number; y: number; width: number; height: number }) => {
    const [from, to] = [onScreen(b), onScreen({ x: b.x + b.width, y: b.y + b.height })];
    return { x: from.x, y: from.y, width: to.x - from.x, height: to.y - from.y };
  };
  const framed = (b: RectPx) => ({
    x: b.x * view.scale + view.x,
    y: b.y * view.scale + view.y,
    width: b.width * view.scale,
    height: b.height * view.scale,
  });
  const { before, after } = facts.framed;
  const isSmall = ({ box }: PieceFact) => Math.max(box.width, box.height) * view.scale < SMALL_PX;
  const ringed = facts.pieces.filter((p) => p.dropped || isSmall(p)).slice(-MOST_RINGS);
  const isChanged = before && after && JSON.stringify(before) !== JSON.stringify(after);
  return (
    <>
      <svg className="extents" aria-hidden="true">
        {before && isChanged && <rect {...framed(before)} className="is-before" />}
        {after && <rect {...framed(after)} />}
      </svg>
      {picked && (
        <svg className="picked-pieces" aria-hidden="true">
          {picked.slice(0, MOST_RINGS).map((piece) => (
            <rect key={`${piece.x},${piece.y}`} {...boxOnScreen(piece.box)} rx={3} />
          ))}
        </svg>
      )}
      {ringed.map((piece) => {
        const at = onScreen(piece);
        const size = Math.round(piece.areaPx * 10) / 10;
        const isStretching = facts.stretchers.some((s) => s.x === piece.x && s.y === piece.y);
        const what = `${size} px${isStretching ? ', widens the extents' : ''}`;
        return (
          <button
            key={`${piece.x},${piece.y}`}
            type="button"
            // By keys a piece is reached in the list: a hundred specks would stand between two controls.
            tabIndex={-1}
            className={`piece-ring${piece.dropped ? ' is-dropped' : ''}${isStretching ? ' is-stretching' : ''}`}
            style={{ left: at.x, top: at.y }}
            title={`${what}. ${piece.dropped ? 'Dropped: press to keep.' : 'Press to drop.'}`}
            aria-label={`Piece of ${size} px, ${piece.dropped ? 'dropped' : 'kept'}`}
            onClick={() => onFlip(piece)}
          />
        );
      })}
    </>
  );
}

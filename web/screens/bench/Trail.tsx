import { useCallback, useState } from 'react';
import { Link } from 'react-router';
import { Canvas, fillChecker } from '../../components/Canvas';
import type { BeadPicture, Bench, TrailStage } from './Bench';
import { HistoryDrawer } from './HistoryDrawer';
import { trail } from './stages';

interface Props {
  readonly bench: Bench;
  readonly stage: TrailStage;
}

/** The stages as beads on one thread, each a live picture of the mark as it is after that stage. */
export function Trail({ bench, stage }: Props) {
  const { mark, draft } = bench;
  const [isHistoryOpen, openHistory] = useState(false);
  return (
    <div className="trail">
      <div className="trail-name">
        <h1>{mark.name}</h1>
        <span className="soft small">
          {mark.kind === 'logo' ? 'Logo' : 'Signature'} · {mark.state} · {draft.isSaving ? 'saving' : 'saved'}
        </span>
        <span className="trail-steps">
          <button
            type="button"
            className="plain small"
            disabled={!draft.canUndo}
            onClick={draft.undo}
            title="Undo, Ctrl Z"
          >
            Undo
          </button>
          <button
            type="button"
            className="plain small"
            disabled={!draft.canRedo}
            onClick={draft.redo}
            title="Redo, Ctrl Shift Z"
          >
            Redo
          </button>
          <button type="button" className="plain small" onClick={() => openHistory(true)}>
            History
          </button>
        </span>
      </div>
      <HistoryDrawer mark={mark} draft={draft} isOpen={isHistoryOpen} onClose={() => openHistory(false)} />
      <nav className="trail-beads" aria-label="Stages">
        {trail.map((s) => (
          <button
            key={s.id}
            type="button"
            className="bead"
            aria-current={s.id === stage.id ? 'step' : undefined}
            onClick={() => bench.go(s.id)}
          >
            <Bead picture={s.bead(bench)} />
            <span className="bead-words">
              <b>{s.title}</b>
              {s.status(bench)}
            </span>
          </button>
        ))}
        <Link className="trail-place" to={`/placements?mark=${mark.id}`}>
          Place
        </Link>
      </nav>
    </div>
  );
}

const SPLIT = { light: '#f6f6f6', dark: '#1c1b1d' };

function Bead({ picture: { bitmap, ground, count } }: { picture: BeadPicture }) {
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      context.imageSmoothingQuality = 'high';
      if (ground === 'split') paintSplit(context, w, h);
      else if (ground === 'checker') fillChecker(context, 0, 0, w, h, 6);
      if (!bitmap) return;
      const to = fitInCircle(bitmap, w);
      context.drawImage(bitmap, to.x, to.y, to.width, to.height);
    },
    [bitmap, ground],
  );
  if (count !== undefined)
    return (
      <span className="bead-picture is-empty" aria-hidden="true">
        {count || ''}
      </span>
    );
  return (
    <span className={`bead-picture${bitmap === undefined ? ' is-working' : ''}`}>
      <Canvas draw={draw} />
    </span>
  );
}

function paintSplit(context: CanvasRenderingContext2D, w: number, h: number): void {
  context.fillStyle = SPLIT.light;
  context.fillRect(0, 0, w, h);
  context.fillStyle = SPLIT.dark;
  context.beginPath();
  context.moveTo(w, 0);
  context.lineTo(w, h);
  context.lineTo(0, h);
  context.fill();
}

/** Between a picture's corners and the bead's rim. */
const RIM_PX = 3;

/** The largest place for a picture whose corners still lie in a circle. */
export function fitInCircle(picture: { width: number; height: number }, diameter: number) {
  const scale = (diameter - 2 * RIM_PX) / Math.hypot(picture.width, picture.height);
  const [width, height] = [picture.width * scale, picture.height * scale];
  return { x: (diameter - width) / 2, y: (diameter - height) / 2, width, height };
}

import { useCallback } from 'react';
import type { RectPx } from '../../../../core/params';
import type { Finding } from '../../../../core/findings/finding';
import { Canvas, fillChecker } from '../../../components/Canvas';
import type { ArtworkShown } from '../../../../worker/protocol';
import type { Place } from './frame';

/** Which finding's places the magnifier goes through, and at which it stands. */
export interface Visit {
  readonly finding: Finding['id'];
  readonly at: number;
}

interface Props {
  readonly findings: readonly Finding[];
  readonly visit: Visit;
  readonly shown: ArtworkShown;
  readonly original: ImageBitmap;
  readonly toFrame: (p: Place) => Place;
  readonly onVisit: (visit: Visit | null) => void;
  readonly onGo: (place: Place) => void;
}

const SIDE = 168;
const ZOOM = 8;

/** A bead that holds the worst places one after another, before on its left half and after on its right. */
export function Magnifier({ findings, visit, shown, original, toFrame, onVisit, onGo }: Props) {
  const finding = findings.find((f) => f.id === visit.finding);
  const count = finding?.places.length ?? 0;
  const at = Math.min(visit.at, Math.max(0, count - 1));
  const place = finding && count ? toFrame(finding.places[at]) : null;
  const [px, py] = [place?.x ?? 0, place?.y ?? 0];
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      context.imageSmoothingEnabled = false;
      const side = (bitmap: ImageBitmap, span: RectPx, from: number) => {
        context.save();
        context.beginPath();
        context.rect(from, 0, w / 2, h);
        context.clip();
        context.drawImage(
          bitmap,
          (span.x - px) * ZOOM + w / 2,
          (span.y - py) * ZOOM + h / 2,
          span.width * ZOOM,
          span.height * ZOOM,
        );
        context.restore();
      };
      fillChecker(context, 0, 0, w, h, 7);
      side(original, { x: 0, y: 0, ...shown.frame }, 0);
      context.fillStyle = '#101010';
      context.fillRect(w / 2, 0, w / 2, h);
      if (shown.bitmap && shown.extents) side(shown.bitmap, shown.extents, w / 2);
    },
    [shown, original, px, py],
  );
  if (!finding || !place) return null;
  const step = (by: number) => onVisit({ finding: finding.id, at: (at + by + count) % count });
  return (
    <div className="magnifier" role="group" aria-label={`Magnifier: ${finding.title}, place ${at + 1} of ${count}`}>
      <button
        type="button"
        className="magnifier-glass"
        style={{ width: SIDE, height: SIDE }}
        onClick={() => onGo(place)}
        aria-label="Go to this place"
        title="Before on the left, after on the right. Press to go there."
      >
        <Canvas draw={draw} />
      </button>
      <span className="magnifier-words">
        <b>{finding.title}</b> {at + 1} of {count}
      </span>
      <span className="magnifier-steps">
        <button type="button" onClick={() => step(-1)} aria-label="Previous place">
          ‹
        </button>
        <button type="button" onClick={() => step(1)} aria-label="Next place">
          ›
        </button>
        <button type="button" onClick={() => onVisit(null)} aria-label="Close the magnifier">
          ×
        </button>
      </span>
    </div>
  );
}

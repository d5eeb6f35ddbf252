import type { Finding } from '../../../../core/findings/finding';
import type { Place } from './frame';
import type { Visit } from './Magnifier';
import type { Viewport } from './useViewport';

interface Props {
  readonly findings: readonly Finding[];
  readonly view: Viewport;
  readonly toFrame: (p: Place) => Place;
  readonly visit: Visit | null;
  readonly onVisit: (visit: Visit) => void;
}

/** Every finding's places on the picture: a ring each, numbered by the finding as the key below lists them. */
export function TroubleMarks({ findings, view, toFrame, visit, onVisit }: Props) {
  const placed = findings.filter((f) => f.places.length > 0);
  if (placed.length === 0) return <span className="picture-hint">No place needs looking at.</span>;
  return (
    <>
      {placed.flatMap((f, n) =>
        f.places.map((p, k) => {
          const at = toFrame(p);
          const isVisited = visit?.finding === f.id && visit.at === k;
          return (
            <button
              key={`${f.id}${k}`}
              type="button"
              className={`trouble-ring ${f.weight}${isVisited ? ' is-visited' : ''}`}
              style={{ left: at.x * view.scale + view.x, top: at.y * view.scale + view.y }}
              aria-label={`${f.title}, place ${k + 1}`}
              title={f.title}
              onClick={() => onVisit({ finding: f.id, at: k })}
            >
              {n + 1}
            </button>
          );
        }),
      )}
      <ol className="trouble-key">
        {placed.map((f) => (
          <li key={f.id}>{f.title}</li>
        ))}
      </ol>
    </>
  );
}

import { Segmented } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { ProofGround } from '../../data/proofGrounds';
import type { PageKnown } from './usePages';

interface Props {
  readonly page: PageKnown | undefined;
  readonly name: string;
  /** A place to look at, as shares of the page; null for none. */
  readonly place: { readonly x: number; readonly y: number } | null;
  readonly grounds: readonly ProofGround[];
}

const views = [
  { value: 'fit', label: 'Whole' },
  { value: 'true', label: 'True pixels' },
];

/** The file as it will be, on any ground: the whole page, or a pixel of it for one of the screen. */
export function PagePreview({ page, name, place, grounds }: Props) {
  const [groundId, setGround] = useState<string | null>(null);
  const [view, setView] = useState<'fit' | 'true'>('fit');
  const ground = grounds.find((g) => g.id === groundId) ?? grounds[0];
  return (
    <figure className="page-preview">
      <div
        className={`page-room is-${view}`}
        // A page larger than its room is moved by the arrow keys.
        tabIndex={view === 'true' ? 0 : -1}
        role="region"
        aria-label="The file’s page"
        style={ground.hex ? { background: ground.hex } : { backgroundImage: `url(${ground.url})` }}
      >
        {page?.bitmap ? (
          <PageCanvas page={page} label={`${name} on ${ground.name}`} isTrue={view === 'true'} place={place} />
        ) : (
          <span className="page-waiting small" role="status">
            Drawing…
          </span>
        )}
      </div>
      <figcaption>
        <span className="page-grounds" role="group" aria-label="Grounds">
          {grounds.map((g) => (
            <button
              key={g.id}
              type="button"
              aria-label={g.name}
              title={g.name}
              aria-pressed={g.id === ground.id}
              style={g.hex ? { background: g.hex } : { backgroundImage: `url(${g.url})` }}
              onClick={() => setGround(g.id)}
            />
          ))}
        </span>
        <Segmented
          size="small"
          aria-label="View"
          value={view}
          options={views}
          onChange={(v) => setView(v as 'fit' | 'true')}
        />
      </figcaption>
    </figure>
  );
}

function PageCanvas({
  page,
  label,
  isTrue,
  place,
}: Pick<Props, 'place'> & { page: PageKnown; label: string; isTrue: boolean }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { bitmap } = page;
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas || !bitmap || bitmap.width === 0) return;
    [canvas.width, canvas.height] = [bitmap.width, bitmap.height];
    canvas.getContext('2d')?.drawImage(bitmap, 0, 0);
  }, [bitmap]);
  // Pixel for pixel: no larger than the screen's own.
  const ratio = window.devicePixelRatio || 1;
  const size = isTrue && bitmap ? { width: bitmap.width / ratio, height: bitmap.height / ratio } : {};
  return (
    <span className="page-sheet" style={size}>
      <canvas ref={ref} role="img" aria-label={label} style={size} />
      {place && <i title="The thinnest line" style={{ left: `${place.x * 100}%`, top: `${place.y * 100}%` }} />}
    </span>
  );
}

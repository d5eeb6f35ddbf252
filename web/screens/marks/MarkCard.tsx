import { Checkbox } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { paths } from '../../../contract/paths';
import type { MarkCard as Card } from '../../../contract/views';

interface Props {
  readonly mark: Card;
  /** Tells it from another mark of the same name. */
  readonly sameName: string | null;
  /** Whether it is among those chosen; null where nothing is being chosen. */
  readonly isChosen?: boolean | null;
  readonly onChoose?: (isChosen: boolean) => void;
}

/** A mark on a ground split along the diagonal: its transparency and its legibility show at once. */
export function MarkCard({ mark, sameName, isChosen = null, onChoose }: Props) {
  // Until the server has looked at this revision it gives the picture of the one before.
  const src = `${paths.markThumbnail(mark.id, mark.revision)}${mark.isLookedAt ? '' : '&early'}`;
  const [ended, setEnded] = useState<{ src: string; isShown: boolean } | null>(null);
  const state = ended?.src !== src ? 'working' : ended.isShown ? 'shown' : 'failed';
  const worst = mark.findings.find((f) => f.weight !== 'note');
  const card = (
    <Link className="mark-card" to={`/marks/${mark.id}/cutOut`}>
      <span className={`mark-card-picture is-${state}`}>
        <img
          src={src}
          alt=""
          loading="lazy"
          onLoad={() => setEnded({ src, isShown: true })}
          onError={() => setEnded({ src, isShown: false })}
        />
        {state === 'working' && (
          <span className="measuring" role="status">
            Cutting out…
          </span>
        )}
        {state === 'failed' && <span className="warn">No picture; open it to see why</span>}
      </span>
      <span className="mark-card-line">
        <b>{mark.name}</b>
        <span className="soft small">{mark.kind}</span>
      </span>
      <span className="small soft">
        {sameName && `${sameName} · `}
        {mark.variantCount} {mark.variantCount === 1 ? 'variant' : 'variants'}
        {mark.state === 'finished' && ' · finished'}
        {worst && (
          <>
            {' '}
            · <span className="warn">{worst.title}</span>
          </>
        )}
      </span>
    </Link>
  );
  if (!onChoose) return card;
  return (
    <div className={`mark-slot${isChosen ? ' is-chosen' : ''}`}>
      {card}
      <Checkbox
        className="mark-choose"
        aria-label={`Choose ${mark.name}`}
        checked={isChosen ?? false}
        onChange={(e) => onChoose(e.target.checked)}
      />
    </div>
  );
}

import { Link } from 'react-router';
import { paths } from '../../../contract/paths';
import type { MarkCard as Card } from '../../../contract/views';

/** A mark on a ground split along the diagonal: its transparency and its legibility show at once. */
export function MarkCard({ mark }: { mark: Card }) {
  const worst = mark.findings.find((f) => f.weight !== 'note');
  const rest = mark.state === 'finished' ? 'finished' : null;
  return (
    <Link
      className="mark-card"
      to={`/marks/${mark.id}/cutOut`}
      aria-label={`${mark.name}, ${mark.kind}, ${mark.state}${worst ? `, ${worst.title}` : ''}`}
    >
      <span className="mark-card-picture">
        <img src={paths.markThumbnail(mark.id, mark.revision)} alt="" loading="lazy" />
      </span>
      <span className="mark-card-line">
        <b>{mark.name}</b>
        <span className="soft small">{mark.kind}</span>
      </span>
      <span className="small soft">
        {mark.variantCount} variants{rest && ` · ${rest}`}
        {worst && (
          <>
            {' '}
            · <span className="warn">{worst.title}</span>
          </>
        )}
      </span>
    </Link>
  );
}

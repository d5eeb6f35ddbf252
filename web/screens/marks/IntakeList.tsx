import { Link } from 'react-router';
import { type IntakeRow, pagesPath } from '../../data/useIntake';

const signs: Record<IntakeRow['state'], string> = {
  waiting: '·',
  reading: '…',
  done: '✓',
  known: '=',
  pages: '?',
  refused: '✕',
  cancelled: '–',
};

/** What each file that was dropped turned out to be. */
export function IntakeList({
  rows,
  onCancel,
  onClear,
}: {
  rows: readonly IntakeRow[];
  onCancel: () => void;
  onClear: () => void;
}) {
  if (rows.length === 0) return null;
  const isBusy = rows.some((r) => r.state === 'waiting' || r.state === 'reading');
  const ended = rows.filter((r) => r.state !== 'waiting' && r.state !== 'reading').length;
  return (
    <section className="intake" aria-label="Taken in" aria-live="polite">
      <header>
        <h2>{isBusy ? `Taking in, ${ended} of ${rows.length}` : 'Taken in'}</h2>
        {isBusy ? (
          <button type="button" className="plain" onClick={onCancel}>
            Cancel
          </button>
        ) : (
          <button type="button" className="plain" onClick={onClear}>
            Close this list
          </button>
        )}
      </header>
      <ul>
        {rows.map((row) => (
          <IntakeLine key={row.key} row={row} />
        ))}
      </ul>
    </section>
  );
}

function IntakeLine({ row }: { row: IntakeRow }) {
  const { taken, pdf } = row;
  return (
    <li className={`intake-row ${row.state}`}>
      <span className="intake-sign" aria-hidden="true">
        {signs[row.state]}
      </span>
      <b>{row.fileName}</b>
      <span className={row.state === 'refused' ? 'warn' : 'soft'}>
        {row.state === 'waiting' && 'waiting'}
        {row.state === 'reading' && 'reading and cutting out'}
        {row.state === 'cancelled' && 'cancelled; nothing was kept'}
        {row.state === 'refused' && row.problem}
        {pdf &&
          (pdf.pageCount === 1
            ? '1 page: choose what to take from it.'
            : `${pdf.pageCount} pages: choose what to take from them.`)}
        {taken?.isDuplicate && <>The same file is here already, as {taken.mark.name}. </>}
        {taken && !taken.isDuplicate && (
          <>
            {[
              taken.mark.found.sentence,
              ...taken.mark.found.notes.map((n) => `${n[0].toUpperCase()}${n.slice(1)}.`),
            ].join(' ')}{' '}
          </>
        )}
      </span>
      {taken && <Link to={`/marks/${taken.mark.id}/cutOut`}>Open</Link>}
      {pdf && <Link to={pagesPath(pdf)}>Choose</Link>}
    </li>
  );
}

import './marks.css';
import { useQuery } from '@tanstack/react-query';
import { Input, Select } from 'antd';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link, useNavigate } from 'react-router';
import type { MarkCard as Card } from '../../../contract/views';
import { Failed, Waiting } from '../../components/Waiting';
import { marksQuery, removedQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { type IntakeRow, pagesPath, useIntake } from '../../data/useIntake';
import { BulkBar } from './BulkBar';
import { IntakeList } from './IntakeList';
import { MarkCard } from './MarkCard';
import { RemovedMarks } from './RemovedMarks';
import { ThreeWays } from './ThreeWays';
import { useBulk } from './useBulk';
import { sameNames } from './sameNames';

const filters = {
  All: () => true,
  Logos: (m: Card) => m.kind === 'logo',
  Signatures: (m: Card) => m.kind === 'signature',
  Working: (m: Card) => m.state === 'working',
  Finished: (m: Card) => m.state === 'finished',
  'With findings': (m: Card) => m.findings.some((f) => f.weight !== 'note'),
} as const;
type FilterName = keyof typeof filters;

const orders = {
  newest: (a: Card, b: Card) => b.createdAt.localeCompare(a.createdAt),
  changed: (a: Card, b: Card) => b.updatedAt.localeCompare(a.updatedAt),
  name: (a: Card, b: Card) => a.name.localeCompare(b.name),
} as const;
type OrderName = keyof typeof orders;
const orderOptions: { value: OrderName; label: string }[] = [
  { value: 'newest', label: 'Newest first' },
  { value: 'changed', label: 'Last changed first' },
  { value: 'name', label: 'By name' },
];

/** The chosen brand's marks as cards; files can be dropped anywhere. */
export function MarksScreen() {
  const { brand, brands, isLoading: isBrandLoading, error: brandError } = useBrand();
  const marks = useQuery({ ...marksQuery(brand?.id ?? ''), enabled: brand !== null });
  const removed = useQuery({ ...removedQuery(brand?.id ?? ''), enabled: brand !== null });
  const [isRemovedShown, showRemoved] = useState(false);
  const removedCount = removed.data?.length ?? 0;
  const [filter, setFilter] = useState<FilterName>('All');
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<OrderName>('newest');
  const [chosenIds, setChosen] = useState<ReadonlySet<string>>(new Set());
  const bulk = useBulk();
  const navigate = useNavigate();
  // One file alone was meant to be worked on: its bench opens by itself.
  const openSingle = useCallback(
    (rows: readonly IntakeRow[]) => {
      const { taken = null, pdf = null } = rows.length === 1 ? rows[0] : {};
      if (pdf) void navigate(pagesPath(pdf));
      if (!taken) return;
      // A sheet of several signatures asks which of them first.
      const stage = taken.mark.found.markCount > 1 && !taken.isDuplicate ? 'crop' : 'cutOut';
      void navigate(`/marks/${taken.mark.id}/${stage}`, {
        state: { justTakenIn: !taken.isDuplicate, isDuplicate: taken.isDuplicate },
      });
    },
    [navigate],
  );
  const intake = useIntake(brand?.id ?? null, openSingle);
  const drop = useDropzone({ onDrop: (files) => void intake.add(files), noClick: true, noKeyboard: true });
  usePaste(intake.add);
  const all = useMemo(() => marks.data ?? [], [marks.data]);
  const alike = useMemo(() => sameNames(all), [all]);
  const shown = useMemo(() => {
    const words = search.trim().toLowerCase();
    return all
      .filter(
        (m) => filters[filter](m) && (words === '' || `${m.name} ${m.originalName}`.toLowerCase().includes(words)),
      )
      .sort(orders[order]);
  }, [all, filter, search, order]);
  const chosen = shown.filter((m) => chosenIds.has(m.id));

  // The last one brought back leaves nothing to show.
  const areRemovedShown = isRemovedShown && removedCount > 0;

  if (isBrandLoading) return <Waiting what="marks" />;
  if (brandError) return <Failed error={brandError} />;
  const withFindings = all.filter(filters['With findings']).length;
  return (
    <div {...drop.getRootProps({ className: 'marks' })}>
      <input {...drop.getInputProps({ 'aria-label': 'Choose files' })} />
      <div className="marks-head">
        <h1>Marks</h1>
        <span className="soft">
          {all.length} {all.length === 1 ? 'mark' : 'marks'}
          {withFindings > 0 && ` · ${withFindings} with findings`}
        </span>
        <div className="marks-tools">
          <Input
            allowClear
            placeholder="Search"
            aria-label="Search marks"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
            style={{ width: 140 }}
          />
          <Select
            aria-label="Order"
            value={order}
            options={orderOptions}
            onChange={setOrder}
            popupMatchSelectWidth={false}
            style={{ width: 138 }}
          />
          {(Object.keys(filters) as FilterName[]).map((name) => (
            <button
              key={name}
              type="button"
              className="pill"
              aria-pressed={filter === name && !areRemovedShown}
              onClick={() => {
                setFilter(name);
                showRemoved(false);
              }}
            >
              {name}
            </button>
          ))}
          {removedCount > 0 && (
            <button
              type="button"
              className="pill"
              aria-pressed={areRemovedShown}
              onClick={() => showRemoved(!isRemovedShown)}
            >
              Removed {removedCount}
            </button>
          )}
        </div>
      </div>
      <BulkBar
        all={shown}
        chosen={chosen}
        brands={brands.filter((b) => b.id !== brand?.id)}
        standard={brand?.standardLines ?? null}
        bulk={bulk}
        onChoose={(marks) => setChosen(new Set(marks.map((m) => m.id)))}
      />
      <IntakeList rows={intake.rows} onCancel={intake.cancel} onClear={intake.clear} />
      {marks.error && <Failed error={marks.error} onRetry={() => void marks.refetch()} />}
      {!marks.error && areRemovedShown && <RemovedMarks marks={removed.data ?? []} />}
      {!marks.error && !areRemovedShown && !marks.isLoading && all.length === 0 && brand && (
        <ThreeWays brand={brand.name} onChoose={drop.open} />
      )}
      {!marks.error && !areRemovedShown && (
        <div className="marks-grid">
          <div className="drop-card">
            <b>Drop files here</b>
            <span className="soft small">PNG, JPEG, WebP, TIFF, SVG, PDF</span>
            <span>
              or{' '}
              <button type="button" className="plain" onClick={drop.open}>
                choose files
              </button>
              , or paste
            </span>
            <span className="drop-others small">
              <Link to="/take-in/draw">Draw a signature</Link>
              <Link to="/take-in/type">Type a mark</Link>
            </span>
            <Link className="small" to="/take-in/draw" state={{ photograph: true }}>
              Simulate a photograph
            </Link>
          </div>
          {shown.map((mark) => (
            <MarkCard
              key={mark.id}
              mark={mark}
              sameName={alike.get(mark.id) ?? null}
              isChosen={chosenIds.has(mark.id)}
              onChoose={(isChosen) => {
                const next = new Set(chosenIds);
                if (isChosen) next.add(mark.id);
                else next.delete(mark.id);
                setChosen(next);
              }}
            />
          ))}
          {!marks.isLoading && all.length > 0 && shown.length === 0 && (
            <p className="soft marks-none">
              No marks match.{' '}
              <button
                type="button"
                className="plain"
                onClick={() => {
                  setFilter('All');
                  setSearch('');
                }}
              >
                Show all
              </button>
            </p>
          )}
        </div>
      )}
      {drop.isDragActive && (
        <div className="drop-veil" aria-hidden="true">
          <span>Drop to take in</span>
        </div>
      )}
    </div>
  );
}

/** Pictures from the clipboard are taken in wherever on the screen they are pasted. */
function usePaste(add: (files: readonly File[]) => Promise<void>): void {
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length === 0) return;
      event.preventDefault();
      void add(files);
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, [add]);
}

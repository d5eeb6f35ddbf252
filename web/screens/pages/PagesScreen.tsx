import './pages.css';
import { useQuery } from '@tanstack/react-query';
import { Button, Input, Segmented } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { paths } from '../../../contract/paths';
import type { PickRequest } from '../../../contract/requests';
import type { PageView } from '../../../contract/views';
import { Failed, Waiting } from '../../components/Waiting';
import { pageQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { useNewMark } from '../../data/useNewMark';
import { PageSheet } from './PageSheet';
import { NOTHING, type Picking, boxOf, textsAmong } from './picking';

const THUMB_PX = 260;
const PICTURE_PX = 2000;
const ZOOMS = [1, 2, 4];
const MM_PER_PT = 25.4 / 72;
/** Room round the page, px. */
const ROOM_PX = 44;

/** The pages of a PDF file, to pick a mark from one of them. */
export function PagesScreen() {
  const { sha = '', page: text = '1' } = useParams();
  const [search] = useSearchParams();
  const name = search.get('name') ?? 'file.pdf';
  const pageCount = Math.max(1, Number(search.get('pages')) || 1);
  const number = Math.min(pageCount, Math.max(1, Number(text) || 1));
  const { brand } = useBrand();
  const { data: page, error } = useQuery(pageQuery(sha, number, name));
  const [picking, setPicking] = useState<Picking>(NOTHING);
  const [takesGroups, setTakesGroups] = useState(true);
  const [zoom, setZoom] = useState(1);
  const stage = useRef<HTMLDivElement>(null);
  const scale = useFit(stage, page ?? null) * zoom;
  useEffect(() => setPicking(NOTHING), [sha, number]);
  useEscape(() => setPicking(NOTHING));
  const query = `name=${encodeURIComponent(name)}`;
  const drawn = (n: number, longPx: number) => `${paths.pdfPicture(sha, n)}?${query}&longPx=${longPx}`;
  if (!brand) return <Waiting what="the pages" />;
  return (
    <div className="pages">
      <header className="pages-head">
        <h1>{name}</h1>
        <span className="soft">Press what belongs to the mark, or drag a rectangle round it.</span>
        <Segmented
          size="small"
          aria-label="A press picks"
          value={takesGroups ? 'groups' : 'objects'}
          onChange={(v) => setTakesGroups(v === 'groups')}
          options={[
            { value: 'groups', label: 'Drawn pictures' },
            { value: 'objects', label: 'Single objects' },
          ]}
        />
        <Segmented
          size="small"
          aria-label="Page size"
          value={zoom}
          onChange={setZoom}
          options={ZOOMS.map((z) => ({ value: z, label: z === 1 ? 'Whole page' : `${z} ×` }))}
        />
      </header>
      <div className="pages-work">
        <nav className="pages-list" aria-label="Pages">
          {Array.from({ length: pageCount }, (_, k) => k + 1).map((n) => (
            <Link
              key={n}
              to={`/pages/${sha}/${n}?${query}&pages=${pageCount}`}
              aria-current={n === number ? 'page' : undefined}
              replace
            >
              <img src={drawn(n, THUMB_PX)} alt="" loading="lazy" />
              <span>Page {n}</span>
            </Link>
          ))}
        </nav>
        <div className="pages-stage" ref={stage} tabIndex={0} role="group" aria-label={`Page ${number}`}>
          {error && <Failed error={error} />}
          {!error && !page && <Waiting what={`page ${number}`} />}
          {page && (
            <PageSheet
              page={page}
              picture={drawn(number, PICTURE_PX)}
              scale={scale}
              picking={picking}
              takesGroups={takesGroups}
              onPick={setPicking}
            />
          )}
        </div>
        {page && (
          <PickPanel
            key={`${sha}${number}`}
            page={page}
            picking={picking}
            brandId={brand.id}
            file={{ sha, name, page: number }}
            picture={drawn(number, PICTURE_PX)}
            onPick={setPicking}
          />
        )}
      </div>
    </div>
  );
}

interface PanelProps {
  readonly page: PageView;
  readonly picking: Picking;
  readonly brandId: string;
  readonly file: Pick<PickRequest, 'sha' | 'name' | 'page'>;
  readonly picture: string;
  readonly onPick: (picking: Picking) => void;
}

/** What is picked, and what becomes of it. */
function PickPanel({ page, picking, brandId, file, picture, onPick }: PanelProps) {
  const [markName, setName] = useState('');
  const { make: take, problem, isBusy } = useNewMark<PickRequest>(paths.brandPicked(brandId));
  const box = boxOf(page, picking);
  const texts = textsAmong(page, picking);
  const { objects } = picking;
  const fallback = `${file.name.replace(/\.pdf$/i, '')} page ${file.page}`;
  const mm = (pt: number) => (pt * MM_PER_PT).toFixed(1);
  return (
    <aside className="side-panel pages-panel" aria-label="Picked">
      <h2>Picked</h2>
      <div className="pages-preview">
        {box ? (
          <svg viewBox={`${box.x} ${box.y} ${box.width} ${box.height}`} role="img" aria-label="What is picked">
            {picking.picture !== null ? (
              <image href={picture} width={page.widthPt} height={page.heightPt} preserveAspectRatio="none" />
            ) : (
              [...objects]
                .sort((a, b) => a - b)
                .map((k) => {
                  const { d, rule, colour, opacity } = page.objects[k];
                  return <path key={k} d={d} fillRule={rule} fill={colour} fillOpacity={opacity} />;
                })
            )}
          </svg>
        ) : (
          <span className="soft small">Nothing yet</span>
        )}
      </div>
      {box && (
        <dl className="facts">
          <div>
            <dt>{picking.picture === null ? 'Objects' : 'Kind'}</dt>
            <dd>{picking.picture === null ? objects.size : 'a picture of pixels'}</dd>
          </div>
          <div>
            <dt>On the page</dt>
            <dd>
              {mm(box.width)} × {mm(box.height)} mm
            </dd>
          </div>
        </dl>
      )}
      {texts > 0 && (
        <p className="finding small">
          Text stands among it whose letters are no paths: the page does not carry their outlines. It is left out.
        </p>
      )}
      {box && picking.picture !== null && (
        <p className="soft small">It goes the way of pictures: cut out from its ground, then traced if you like.</p>
      )}
      <div className="panel-row">
        <button
          type="button"
          className="pill"
          onClick={() => onPick({ objects: new Set(page.objects.keys()), picture: null })}
        >
          All of the page
        </button>
        <button type="button" className="pill" disabled={!box} onClick={() => onPick(NOTHING)}>
          Pick nothing
        </button>
      </div>
      <label className="panel-field">
        <b>Name</b>
        <Input value={markName} maxLength={120} placeholder={fallback} onChange={(e) => setName(e.target.value)} />
      </label>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
      <Button
        type="primary"
        block
        disabled={!box || isBusy}
        loading={isBusy}
        onClick={() =>
          void take({
            ...file,
            markName: markName.trim() || fallback,
            objects: [...objects],
            picture: picking.picture,
          })
        }
      >
        Take it in
      </Button>
    </aside>
  );
}

/** Screen pixels of a point at which the whole page shows. */
function useFit(stage: React.RefObject<HTMLDivElement | null>, page: PageView | null): number {
  const [size, setSize] = useState({ width: 600, height: 600 });
  useEffect(() => {
    const element = stage.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, [stage]);
  if (!page) return 1;
  return Math.max(0.05, Math.min((size.width - ROOM_PX) / page.widthPt, (size.height - ROOM_PX) / page.heightPt));
}

function useEscape(onEscape: () => void): void {
  const latest = useRef(onEscape);
  latest.current = onEscape;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && !(event.target instanceof HTMLInputElement)) latest.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

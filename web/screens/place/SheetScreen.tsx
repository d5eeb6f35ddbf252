import './place.css';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Input, InputNumber, Segmented, Select } from 'antd';
import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { paths } from '../../../contract/paths';
import type { PieceView, SheetOrderView } from '../../../contract/views';
import { isCoreError } from '../../../core/errors';
import { readLength } from '../../../core/placements/lengths';
import { ANCHORS } from '../../../core/placements/placement';
import { readAt } from '../../../core/placements/readPlacement';
import { type SheetLayout, layOutSheet } from '../../../core/sheets/layOutSheet';
import { LEAST_OVERLAP_MM, type Mat, readMat, turnedFor } from '../../../core/sheets/mat';
import { PAPERS, readPaper, turnedPaper } from '../../../core/sheets/paper';
import { MM_PER_INCH } from '../../../core/units';
import { Waiting } from '../../components/Waiting';
import { download, send } from '../../data/http';
import { groundsQuery, markQuery, marksQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { placeWords } from './placementWords';
import { piecesQuery } from './usePlacement';
import { Field, MarkVariantFields } from './MarkVariantFields';
import { useDoing } from './useDoing';
import { usePicture } from './usePicture';
import { useSize } from './useSize';
import { CARD_MM, useScreenScale } from './useScreenScale';

const MATS = ['11x14in:9.5x7.5in', '16x20in:10.5x13.5in'];
/** Fewer pixels to the inch than this look soft on paper. */
const LEAST_PPI = 200;
type Zoom = 'fit' | 'pixels' | 'paper';

/** A mark on a print sheet, in the opening of a mat, looked at as large as it will be. */
export function SheetScreen() {
  const { brand } = useBrand();
  const [params] = useSearchParams();
  const { data: marks } = useQuery({ ...marksQuery(brand?.id ?? ''), enabled: brand !== null });
  const { data: pieces } = useQuery({ ...piecesQuery(brand?.id ?? ''), enabled: brand !== null });
  if (!brand || !marks || !pieces) return <Waiting what="the sheet" />;
  const piece = pieces?.find((p) => p.id === params.get('piece')) ?? null;
  const first = marks.find((m) => m.id === (piece?.order.markId ?? params.get('mark'))) ?? marks[0];
  if (!first) return <p className="soft place-none">Take in a mark first; then it can be put on a sheet.</p>;
  return <Sheet brandId={brand.id} brandName={brand.name} marks={marks} first={first.id} piece={piece} />;
}

interface Props {
  readonly brandId: string;
  readonly brandName: string;
  readonly marks: readonly { readonly id: string; readonly name: string; readonly revision: number }[];
  readonly first: string;
  readonly piece: PieceView | null;
}

const usual = { paper: '10x8in', mat: '' as string, ppi: 300, at: 'centre', inset: '8%', size: '60%', ground: '' };

function orderOf(piece: PieceView | null): typeof usual {
  if (!piece) return usual;
  const { paper, mat, ppi, at, inset, size, groundId } = piece.order;
  return { paper, mat: mat ?? '', ppi, at, inset, size, ground: groundId ?? '' };
}

function Sheet({ brandId, brandName, marks, first, piece }: Props) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [markId, setMark] = useState(first);
  const [variant, setVariant] = useState(piece?.order.variant ?? 'colour');
  const [order, setOrder] = useState(() => orderOf(piece));
  const [own, setOwn] = useState('210x297mm');
  const [format, setFormat] = useState<'pdf' | 'tiff' | 'png'>(piece?.order.format ?? 'pdf');
  const [zoom, setZoom] = useState<Zoom>('fit');
  const [name, setName] = useState<string | null>(piece?.name ?? null);
  const state = useDoing();
  const { data: mark } = useQuery(markQuery(markId));
  const { data: grounds = [] } = useQuery(groundsQuery(brandId));
  const card = marks.find((m) => m.id === markId) ?? marks[0];
  const picture = usePicture(`${paths.markVariant(markId, variant)}?width=1000&revision=${card.revision}`);
  const paperText = order.paper === 'own' ? own : order.paper;
  const set = (change: Partial<typeof usual>) => setOrder((o) => ({ ...o, ...change }));
  const { layout, mat, problem } = useMemo(
    () => layOut({ ...order, paper: paperText }, picture ?? { width: 2, height: 1 }),
    [order, paperText, picture],
  );
  const shownVariant = mark?.recipe.variants.find((v) => v.id === variant)?.name ?? variant;
  const fileName = name ?? `${brandName}-${card.name}-${shownVariant}-${paperText}`;
  const asked = (): SheetOrderView => {
    const { ground, ...rest } = order;
    return { ...rest, markId, variant, paper: paperText, mat: order.mat || null, groundId: ground || null, format };
  };
  const make = () => state.run(() => download(paths.brandSheets(brandId), { ...asked(), name: fileName }));
  const keep = () =>
    state.run(async () => {
      const body = { ...(piece ? { id: piece.id } : {}), name: fileName, order: asked() };
      const kept = await send<PieceView>('POST', paths.brandPieces(brandId), body);
      await queries.invalidateQueries({ queryKey: ['pieces'] });
      navigate(`/placements/sheet?piece=${kept.id}`, { replace: true });
    });
  const isSoft = mark?.source === 'picture' && layout !== null && layout.mark.width > mark.width;
  return (
    <div className="place">
      <header className="place-head">
        <h1 className="place-title">Print sheet</h1>
        <span className="soft small">
          {layout && `${Math.round(layout.width)} × ${Math.round(layout.height)} px at ${order.ppi} per inch`}
        </span>
        <span className="place-actions">
          <Segmented
            value={zoom}
            onChange={(v) => setZoom(v as Zoom)}
            options={[
              { value: 'fit', label: 'Fit' },
              { value: 'pixels', label: 'Actual size' },
              { value: 'paper', label: 'As on paper' },
            ]}
          />
          <Select
            aria-label="Format"
            style={{ width: 92 }}
            value={format}
            options={[
              { value: 'pdf', label: 'PDF' },
              { value: 'tiff', label: 'TIFF' },
              { value: 'png', label: 'PNG' },
            ]}
            onChange={setFormat}
          />
          <Button disabled={!layout} onClick={() => void keep()}>
            {piece ? 'Keep the change' : 'Keep it'}
          </Button>
          <Button type="primary" disabled={!layout} loading={state.isBusy} onClick={() => void make()}>
            Make the sheet
          </Button>
        </span>
      </header>
      {(state.problem ?? problem) && (
        <p className="finding place-problem" role="alert">
          {state.problem ?? problem}
        </p>
      )}
      <div className="place-middle">
        <SheetView
          layout={layout}
          mat={mat}
          zoom={zoom}
          mark={picture?.url ?? null}
          photo={grounds.find((g) => g.id === order.ground)?.picture ?? null}
        />
        <aside className="side-panel place-side" aria-label="The sheet">
          <MarkVariantFields
            {...{ marks, markId, variant }}
            variants={mark?.recipe.variants ?? []}
            onChange={(id, next) => {
              setMark(id);
              setVariant(next);
            }}
          />
          <Field label="Paper">
            <Select
              aria-label="Paper"
              value={order.paper}
              options={[...papers, { value: 'own', label: 'own size' }]}
              onChange={(paper) => set({ paper })}
            />
          </Field>
          {order.paper === 'own' && (
            <Field label="Size of the paper">
              <Input aria-label="Size of the paper" value={own} onChange={(e) => setOwn(e.target.value)} />
            </Field>
          )}
          <Field label="Mat">
            <Select
              aria-label="Mat"
              value={order.mat}
              options={[{ value: '', label: 'none' }, ...MATS.map((m) => ({ value: m, label: m.replace(':', ', ') }))]}
              onChange={(text) => set({ mat: text })}
            />
          </Field>
          <Field label="Pixels per inch">
            <InputNumber
              aria-label="Pixels per inch"
              min={36}
              max={1200}
              value={order.ppi}
              onChange={(ppi) => ppi && set({ ppi })}
            />
          </Field>
          <Field label="Place">
            <Select
              aria-label="Place"
              value={order.at}
              options={ANCHORS.map((at) => ({ value: at as string, label: placeWords(at) }))}
              onChange={(at) => set({ at })}
            />
          </Field>
          <Field label="Size">
            <Input aria-label="Size" value={order.size} onChange={(e) => set({ size: e.target.value })} />
          </Field>
          <Field label="From the edges">
            <Input aria-label="From the edges" value={order.inset} onChange={(e) => set({ inset: e.target.value })} />
          </Field>
          <Field label="Photo beneath">
            <Select
              aria-label="Photo beneath"
              value={order.ground}
              options={[
                { value: '', label: 'none' },
                ...grounds.filter((g) => g.picture).map((g) => ({ value: g.id, label: g.name })),
              ]}
              onChange={(ground) => set(ground ? { ground, at: 'lower-right', size: '22%', inset: '5%' } : { ground })}
            />
          </Field>
          <Field label="Name">
            <Input aria-label="Name" value={fileName} maxLength={160} onChange={(e) => setName(e.target.value)} />
          </Field>
          {layout && (
            <dl className="place-facts">
              <div>
                <dt>Mark on paper</dt>
                <dd>
                  {onPaper(layout.mark.width, order.ppi, paperText)} ×{' '}
                  {onPaper(layout.mark.height, order.ppi, paperText)} {unitOf(paperText)}
                </dd>
              </div>
              {layout.framed && (
                <div>
                  <dt>Under the mat, a side</dt>
                  <dd className={layout.framed.overlap < LEAST_OVERLAP_MM ? 'warn' : ''}>
                    {layout.framed.overlap.toFixed(1)} mm
                  </dd>
                </div>
              )}
              {isSoft && mark && (
                <div>
                  <dt>Its own pixels per inch</dt>
                  <dd className={ppiOf(layout, mark.width) < LEAST_PPI ? 'warn' : ''}>{ppiOf(layout, mark.width)}</dd>
                </div>
              )}
            </dl>
          )}
        </aside>
      </div>
    </div>
  );
}

const papers = Object.keys(PAPERS).flatMap((name) => {
  const { width, height } = turnedPaper(PAPERS[name]);
  const lying = name.endsWith('in') ? name.replace(/(\d+)x(\d+)in/, '$2x$1in') : `${width}x${height}mm`;
  return [
    { value: name, label: name },
    { value: lying, label: name.endsWith('in') ? lying : `${name}, lying` },
  ];
});

/** The unit in which the paper is told. */
const unitOf = (paper: string) => (/in$/i.test(paper) ? 'in' : 'mm');
const onPaper = (px: number, ppi: number, paper: string) =>
  unitOf(paper) === 'in' ? (px / ppi).toFixed(2) : ((px / ppi) * MM_PER_INCH).toFixed(1);
const ppiOf = (layout: SheetLayout, markWidth: number) => Math.round((layout.ppi * markWidth) / layout.mark.width);

function layOut(
  { paper, mat: matText, ppi, at, inset, size }: typeof usual,
  mark: { width: number; height: number },
): { layout: SheetLayout | null; mat: Mat | null; problem: string | null } {
  try {
    const mat = matText ? readMat(matText) : null;
    const given = readPaper(paper);
    const order = {
      ...{ paper: mat ? turnedFor(given, mat) : given, ppi, mat, at: readAt(at, 'The place') },
      ...{ inset: readLength(inset, 'The distance'), size: readLength(size, 'The size', 0.01) },
    };
    return { layout: layOutSheet(mark, order, false), mat, problem: null };
  } catch (error) {
    if (!isCoreError(error)) throw error;
    return { layout: null, mat: null, problem: error.message };
  }
}

interface ViewProps {
  readonly layout: SheetLayout | null;
  readonly mat: Mat | null;
  readonly zoom: Zoom;
  readonly mark: string | null;
  readonly photo: string | null;
}

/** The sheet with its mark; what the mat hides is shaded, the mat itself drawn round it. */
function SheetView({ layout, mat, zoom, mark, photo }: ViewProps) {
  const [room, size] = useSize<HTMLDivElement>();
  const { pxPerMm, setCardWidth } = useScreenScale();
  if (!layout) return <div className="place-room" ref={room} />;
  const perMm = layout.ppi / MM_PER_INCH;
  const outer = mat ? { width: mat.outer.width * perMm, height: mat.outer.height * perMm } : layout;
  const fit = Math.min((size.width - 60) / outer.width, (size.height - 60) / outer.height);
  const scale = zoom === 'fit' ? fit : zoom === 'pixels' ? 1 / (window.devicePixelRatio || 1) : pxPerMm / perMm;
  const px = (v: number) => `${v * scale}px`;
  const { seen } = layout;
  return (
    <div className="place-room sheet-room" ref={room}>
      <div
        className="sheet-mat"
        style={{ width: px(outer.width), height: px(outer.height), background: mat ? undefined : 'none' }}
      >
        <div
          className="sheet-paper"
          role="img"
          aria-label="The sheet"
          style={{ width: px(layout.width), height: px(layout.height) }}
        >
          {photo && <img className="sheet-photo" src={photo} alt="" />}
          {mark && (
            <img
              className="sheet-mark"
              src={mark}
              alt=""
              style={{
                ...{ left: px(layout.mark.x), top: px(layout.mark.y) },
                ...{ width: px(layout.mark.width), height: px(layout.mark.height) },
              }}
            />
          )}
          {mat && (
            <div
              className="sheet-hidden"
              style={{
                ...{ left: px(seen.x), top: px(seen.y), width: px(seen.width), height: px(seen.height) },
                boxShadow: `0 0 0 ${px(Math.max(seen.x, seen.y) + 2)} rgb(120 112 100 / 55%)`,
              }}
            />
          )}
        </div>
      </div>
      {zoom === 'paper' && (
        <label className="sheet-card">
          <span className="small">
            Hold a bank card against the bar and make it as wide: then all is as large as on paper.
          </span>
          <input
            type="range"
            aria-label="Width of a bank card on this screen"
            min={180}
            max={700}
            value={pxPerMm * CARD_MM}
            onChange={(e) => setCardWidth(Number(e.target.value))}
          />
          <span className="sheet-bar" style={{ width: pxPerMm * CARD_MM }} />
        </label>
      )}
    </div>
  );
}

import './place.css';
import { useQuery } from '@tanstack/react-query';
import { Button, Input, InputNumber, Segmented, Select } from 'antd';
import { type MouseEvent, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useSearchParams } from 'react-router';
import { paths } from '../../../contract/paths';
import type { LineView, PdfView } from '../../../contract/views';
import { lineFor } from '../../../core/documents/chooseLine';
import { INKS, type Ink, signatureBox } from '../../../core/documents/signatureBox';
import type { RectPx } from '../../../core/params';
import { MM_PER_INCH, POINTS_PER_INCH } from '../../../core/units';
import { Waiting } from '../../components/Waiting';
import { download, send, upload } from '../../data/http';
import { marksQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { wordsFor } from '../../messages';
import { useDoing } from './useDoing';
import { usePicture } from './usePicture';
import { useSize } from './useSize';

const KINDS = { accept: { 'application/pdf': ['.pdf'] }, noClick: true, noKeyboard: true, multiple: false };
/** As a page is drawn for the screen, px of its longer side. */
const PAGE_PX = 1600;
/** What is shown of a signature in an ink; its own colours otherwise. */
const VARIANT_OF: Record<Ink, string> = { black: 'black', blue: 'black', own: 'colour' };
const INK_COLOUR: Record<Ink, string> = { ...INKS, own: INKS.black };
const MM = POINTS_PER_INCH / MM_PER_INCH;
/** From so good a score on a line is proposed at once. */
const GOOD_SCORE = 12;

interface Place {
  readonly page: number;
  readonly box: RectPx;
}

/** A signature on a document: its line is found, and everything else stays as it was. */
export function DocumentScreen() {
  const { brand } = useBrand();
  const [params] = useSearchParams();
  const { data: marks } = useQuery({ ...marksQuery(brand?.id ?? ''), enabled: brand !== null });
  const [document, setDocument] = useState<PdfView | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const open = async ([file]: readonly File[]) => {
    if (!file || !brand) return;
    setProblem(null);
    try {
      const path = `${paths.brandPdfs(brand.id)}?name=${encodeURIComponent(file.name)}`;
      setDocument(await upload<PdfView>(path, file, new AbortController().signal));
    } catch (error) {
      setProblem(wordsFor(error));
    }
  };
  const drop = useDropzone({ ...KINDS, onDrop: (files) => void open(files) });
  if (!brand || !marks) return <Waiting what="the document" />;
  const ordered = [...marks].sort((a, b) => Number(b.kind === 'signature') - Number(a.kind === 'signature'));
  const first = marks.find((m) => m.id === params.get('mark')) ?? ordered[0];
  return (
    <div {...drop.getRootProps({ className: 'place' })}>
      <input {...drop.getInputProps({ 'aria-label': 'Choose a document' })} />
      {problem && (
        <p className="finding place-problem" role="alert">
          {problem}
        </p>
      )}
      {document && first ? (
        <Signing key={document.sha} document={document} marks={ordered} first={first.id} onOther={drop.open} />
      ) : (
        <div className="place-empty">
          <h1>Sign a document</h1>
          <p className="soft">
            {first ? 'Drop a PDF file: the line to sign on is found.' : 'Take in a signature first; then it can sign.'}
          </p>
          <Button onClick={drop.open} disabled={!first}>
            Choose a PDF file
          </Button>
        </div>
      )}
      {drop.isDragActive && (
        <div className="drop-veil" aria-hidden="true">
          <span>Drop to sign it</span>
        </div>
      )}
    </div>
  );
}

interface SigningProps {
  readonly document: PdfView;
  readonly marks: readonly { readonly id: string; readonly name: string; readonly revision: number }[];
  readonly first: string;
  readonly onOther: () => void;
}

function Signing({ document, marks, first, onOther }: SigningProps) {
  const last = document.pages.length;
  const [page, setPage] = useState(last);
  const [markId, setMark] = useState(first);
  const [ink, setInk] = useState<Ink>('black');
  const [widthMm, setWidth] = useState<number | null>(null);
  const [date, setDate] = useState('');
  const [line, setLine] = useState<Pick<LineView, 'x' | 'y' | 'width' | 'room'> | null>(null);
  const [kept, setKept] = useState<readonly Place[]>([]);
  const state = useDoing();
  const card = marks.find((m) => m.id === markId) ?? marks[0];
  const variant = VARIANT_OF[ink];
  const picture = usePicture(`${paths.markVariant(markId, variant)}?width=600&revision=${card.revision}`);
  const query = `?name=${encodeURIComponent(document.name)}`;
  const { data: lines, isFetching } = useQuery({
    queryKey: ['lines', document.sha, page],
    queryFn: () => send<LineView[]>('GET', `${paths.pdfLines(document.sha, page)}${query}`),
    staleTime: Infinity,
  });
  const best = lines?.find((l) => l.score >= GOOD_SCORE) ?? null;
  const on = line ?? best;
  const dateLine = lines ? lineFor(lines, 'date') : null;
  const typed = date.trim() && dateLine ? [{ text: date.trim(), page, x: dateLine.x, y: dateLine.y }] : [];
  const box = on && picture ? signatureBox(on, picture, widthMm) : null;
  const places = box ? [...kept, { page, box }] : kept;
  const size = document.pages[page - 1];
  const sign = () =>
    state.run(() => download(paths.pdfSigned(document.sha), { markId, ink, name: document.name, places, typed }));
  const goTo = (next: number) => {
    setPage(next);
    setLine(null);
  };
  return (
    <>
      <header className="place-head">
        <h1 className="place-title">{document.name}</h1>
        <span className="soft small">
          page {page} of {last}
        </span>
        <span className="place-actions">
          <Button onClick={onOther}>Another document</Button>
          <Button type="primary" disabled={places.length === 0} loading={state.isBusy} onClick={() => void sign()}>
            Sign {places.length > 1 ? `in ${places.length} places` : 'it'}
          </Button>
        </span>
      </header>
      {state.problem && (
        <p className="finding place-problem" role="alert">
          {state.problem}
        </p>
      )}
      {state.isDone && (
        <p className="place-state" role="status">
          Signed. Text, pictures and fields read back as they were.
        </p>
      )}
      <div className="place-middle">
        <PageView
          url={`${paths.pdfPicture(document.sha, page)}${query}&longPx=${PAGE_PX}`}
          size={size}
          lines={lines ?? []}
          chosen={on}
          placed={[...kept.filter((k) => k.page === page).map((k) => k.box), ...(box ? [box] : [])]}
          ink={ink}
          typed={typed}
          mark={picture?.url ?? null}
          onLine={setLine}
        />
        <aside className="side-panel place-side" aria-label="The signature">
          <div className="panel-field">
            <b>Signature</b>
            <Select
              aria-label="Mark"
              value={markId}
              options={marks.map((m) => ({ value: m.id, label: m.name }))}
              onChange={setMark}
            />
          </div>
          <div className="panel-row">
            <b>Ink</b>
            <Segmented
              value={ink}
              onChange={(v) => setInk(v as Ink)}
              options={[
                { value: 'black', label: 'black' },
                { value: 'blue', label: 'ink blue' },
                { value: 'own', label: 'its own' },
              ]}
            />
          </div>
          <div className="panel-row">
            <b>Width</b>
            <InputNumber
              aria-label="Width"
              min={5}
              max={200}
              suffix="mm"
              placeholder={box ? (box.width / MM).toFixed(0) : ''}
              value={widthMm}
              onChange={setWidth}
            />
          </div>
          <div className="panel-row">
            <b>Page</b>
            <Select
              aria-label="Page"
              style={{ width: 90 }}
              value={page}
              options={document.pages.map((_, k) => ({ value: k + 1, label: `${k + 1}` }))}
              onChange={goTo}
            />
          </div>
          {dateLine && (
            <div className="panel-row">
              <b>Date</b>
              <Input
                aria-label="Date"
                style={{ width: 150 }}
                placeholder="left open"
                maxLength={120}
                value={date}
                onChange={(e) => setDate(e.target.value)}
              />
            </div>
          )}
          {isFetching && <p className="measuring">Looking for lines on page {page}</p>}
          {lines && (
            <div className="sign-lines" role="radiogroup" aria-label="Lines">
              {lines.map((l) => (
                <button
                  key={`${l.x}${l.y}`}
                  type="button"
                  role="radio"
                  aria-checked={on !== null && on.x === l.x && on.y === l.y}
                  onClick={() => setLine(l)}
                >
                  <span>{l.words || `line at ${Math.round(l.x)}, ${Math.round(l.y)} pt`}</span>
                  <span className="soft">{(l.width / MM).toFixed(0)} mm</span>
                </button>
              ))}
              {lines.length === 0 && (
                <p className="soft">No line on this page. Press where the signature is to stand.</p>
              )}
            </div>
          )}
          {kept.length > 0 && (
            <p className="small">
              More {kept.length === 1 ? 'place' : 'places'}: page {kept.map((k) => k.page).join(', ')}.{' '}
              <button type="button" className="plain" onClick={() => setKept([])}>
                Drop them
              </button>
            </p>
          )}
          <button
            type="button"
            className="plain small"
            disabled={!box}
            onClick={() => {
              if (!box) return;
              setKept([...kept, { page, box }]);
              setLine(null);
              if (page > 1) goTo(page - 1);
            }}
          >
            Keep this place and add another
          </button>
        </aside>
      </div>
    </>
  );
}

interface PageProps {
  readonly url: string;
  readonly size: { readonly widthPt: number; readonly heightPt: number };
  readonly lines: readonly LineView[];
  readonly chosen: { readonly x: number; readonly y: number } | null;
  readonly placed: readonly RectPx[];
  readonly typed: readonly { readonly text: string; readonly x: number; readonly y: number }[];
  readonly ink: Ink;
  readonly mark: string | null;
  readonly onLine: (line: { x: number; y: number; width: number; room: number }) => void;
}

/** A page with its lines and the signature on one of them; a press anywhere puts it there. */
function PageView({ url, size, lines, chosen, placed, typed, ink, mark, onLine }: PageProps) {
  const [room, { width, height }] = useSize<HTMLDivElement>();
  const scale = Math.max(0.1, Math.min((width - 48) / size.widthPt, (height - 48) / size.heightPt));
  const px = (v: number) => `${v * scale}px`;
  const press = (e: MouseEvent<HTMLDivElement>) => {
    const bounds = e.currentTarget.getBoundingClientRect();
    onLine({ x: (e.clientX - bounds.left) / scale, y: (e.clientY - bounds.top) / scale, width: 0, room: Infinity });
  };
  return (
    <div className="place-room" ref={room}>
      <div
        className="sign-page"
        style={{ width: px(size.widthPt), height: px(size.heightPt), backgroundImage: `url("${url}")` }}
        onClick={press}
      >
        {lines.map((l) => (
          <span
            key={`${l.x}${l.y}`}
            className={`sign-line${chosen?.x === l.x && chosen.y === l.y ? ' is-on' : ''}`}
            style={{
              left: px(l.x),
              top: px(l.y - Math.min(l.room, 26)),
              width: px(l.width),
              height: px(Math.min(l.room, 26)),
            }}
            onClick={(e) => {
              e.stopPropagation();
              onLine(l);
            }}
          />
        ))}
        {typed.map((t) => (
          <span
            key={t.text}
            className="sign-typed"
            style={{ left: px(t.x + 4), top: px(t.y - 15), fontSize: px(10.5), color: INK_COLOUR[ink] }}
          >
            {t.text}
          </span>
        ))}
        {mark &&
          placed.map((b) => (
            <img
              key={`${b.x}${b.y}`}
              className={`sign-mark${ink === 'blue' ? ' is-blue' : ''}`}
              src={mark}
              alt="Signature"
              style={{ left: px(b.x), top: px(b.y), width: px(b.width), height: px(b.height) }}
            />
          ))}
      </div>
    </div>
  );
}

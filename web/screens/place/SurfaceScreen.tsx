import './place.css';
import { useQuery } from '@tanstack/react-query';
import { Button, Segmented, Slider } from 'antd';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { paths } from '../../../contract/paths';
import { type Surface, usualSurface } from '../../../core/surfaces/renderSurface';
import { ColourChoice } from '../../components/ColourChoice';
import { Waiting } from '../../components/Waiting';
import { download, pictureFor } from '../../data/http';
import { markQuery, marksQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { wordsFor } from '../../messages';
import { MarkVariantFields } from './MarkVariantFields';
import { useDoing } from './useDoing';

type Own = Omit<Surface, 'width' | 'height'>;

const { width: _, height: __, ...START } = usualSurface;
/** What a kind of body is seen best with. */
const starts: Record<Surface['kind'], Partial<Own>> = {
  cylinder: { part: 0.3, turnDeg: 0, tiltDeg: 8 },
  sign: { part: 0.7, turnDeg: 28, tiltDeg: 0 },
};
const PERCENT = 100;
const SETTLED_MS = 120;

/** A mark wrapped round a cup, or on a sign seen from the side, with light and gloss. */
export function SurfaceScreen() {
  const { brand } = useBrand();
  const [params] = useSearchParams();
  const { data: marks } = useQuery({ ...marksQuery(brand?.id ?? ''), enabled: brand !== null });
  if (!brand || !marks) return <Waiting what="the surface" />;
  const first = marks.find((m) => m.id === params.get('mark')) ?? marks[0];
  if (!first) return <p className="soft place-none">Take in a mark first; then it can be put on a cup.</p>;
  return <OnSurface brandId={brand.id} palette={brand.palette} marks={marks} first={first.id} />;
}

interface Props {
  readonly brandId: string;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  readonly marks: readonly { readonly id: string; readonly name: string }[];
  readonly first: string;
}

function OnSurface({ brandId, palette, marks, first }: Props) {
  const [markId, setMark] = useState(first);
  const [variant, setVariant] = useState('colour');
  const [surface, setSurface] = useState<Own>(START);
  const state = useDoing();
  const { data: mark } = useQuery(markQuery(markId));
  const { url, problem, isWaiting } = useLook(brandId, { markId, variant, surface });
  const set = (change: Partial<Own>) => setSurface((s) => ({ ...s, ...change }));
  const isCup = surface.kind === 'cylinder';
  const make = () =>
    state.run(() => download(paths.brandSurfaces(brandId), { markId, variant, surface, form: 'pair' }));
  const slider = (label: string, key: keyof Own, least: number, most: number, words: (v: number) => string) => (
    <div className="surface-slider">
      <span>{label}</span>
      <Slider
        ariaLabelForHandle={label}
        min={least}
        max={most}
        step={most <= 1 ? 0.01 : 1}
        tooltip={{ formatter: (v) => words(v ?? 0) }}
        value={surface[key] as number}
        onChange={(v: number) => set({ [key]: v })}
      />
      <span className="numbers small">{words(surface[key] as number)}</span>
    </div>
  );
  const share = (v: number) => `${Math.round(v * PERCENT)} %`;
  const degrees = (v: number) => `${v}°`;
  return (
    <div className="place">
      <header className="place-head">
        <h1 className="place-title">{isCup ? 'On a cup' : 'On a sign'}</h1>
        <span className="soft small">colours and mask, 2400 × 1800 px</span>
        <span className="place-actions">
          <Segmented
            value={surface.kind}
            onChange={(v) => set({ kind: v as Surface['kind'], ...starts[v as Surface['kind']] })}
            options={[
              { value: 'cylinder', label: 'Cup' },
              { value: 'sign', label: 'Sign' },
            ]}
          />
          <Button type="primary" loading={state.isBusy} onClick={() => void make()}>
            Make the pictures
          </Button>
        </span>
      </header>
      {(state.problem ?? problem) && (
        <p className="finding place-problem" role="alert">
          {state.problem ?? problem}
        </p>
      )}
      <div className="place-middle">
        <div className="place-room">
          {url && <img className="surface-look" src={url} alt={`${isCup ? 'A cup' : 'A sign'} with the mark`} />}
          {isWaiting && <span className="measuring surface-waiting">drawing</span>}
        </div>
        <aside className="side-panel place-side" aria-label="The surface">
          <MarkVariantFields
            {...{ marks, markId, variant }}
            variants={mark?.recipe.variants ?? []}
            onChange={(id, next) => {
              setMark(id);
              setVariant(next);
            }}
          />
          <div className="place-field">
            <span>{isCup ? 'Glaze' : 'Enamel'}</span>
            <ColourChoice name="Colour" hex={surface.colour} palette={palette} onChange={(colour) => set({ colour })} />
          </div>
          {slider(isCup ? 'Part of the circle' : 'Part of the width', 'part', 0.05, 1, share)}
          {slider('Turned', 'turnDeg', isCup ? -180 : -70, isCup ? 180 : 70, degrees)}
          {slider('Seen from above', 'tiltDeg', 0, 45, degrees)}
          {slider('Up and down', 'rise', -1, 1, share)}
          {slider('Light from', 'lightDeg', -90, 90, (v) =>
            v < 0 ? `${-v}° left` : v > 0 ? `${v}° right` : 'in front',
          )}
          {slider('Gloss', 'gloss', 0, 1, share)}
        </aside>
      </div>
    </div>
  );
}

/** The picture as it looks now; the one before it stays until the next is there. */
function useLook(brandId: string, order: { markId: string; variant: string; surface: Own }) {
  const [url, setUrl] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isWaiting, setWaiting] = useState(false);
  const key = JSON.stringify(order);
  useEffect(() => {
    const end = new AbortController();
    const timer = setTimeout(() => {
      setWaiting(true);
      pictureFor(paths.brandSurfaces(brandId), { ...order, form: 'look' }, end.signal)
        .then((blob) => {
          setProblem(null);
          setUrl((before) => {
            if (before) URL.revokeObjectURL(before);
            return URL.createObjectURL(blob);
          });
        })
        .catch((error: unknown) => !end.signal.aborted && setProblem(wordsFor(error)))
        .finally(() => !end.signal.aborted && setWaiting(false));
    }, SETTLED_MS);
    return () => {
      clearTimeout(timer);
      end.abort();
    };
    // The order is in the key.
  }, [brandId, key]);
  return { url, problem, isWaiting };
}

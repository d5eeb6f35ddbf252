import './variants.css';
import { Button, Segmented } from 'antd';
import { useState } from 'react';
import { fills } from '../../../core/fills';
import { type Variant, partOf, variantOf } from '../../../core/recipe/recipe';
import { thinParts } from '../../../core/recipe/thinParts';
import { paths } from '../../../contract/paths';
import { download } from '../../data/http';
import { wordsFor } from '../../messages';
import { usePhotos } from '../../components/usePhoto';
import type { ProofGround } from '../../data/proofGrounds';
import { type Engine, masterOf } from '../../data/useEngine';
import { useStrokes } from '../../data/useStrokes';
import type { RecipeDraft } from '../../data/useRecipeDraft';
import { GroundTable } from './GroundTable';
import { VariantPanel } from './VariantPanel';
import { VariantPicture } from './VariantPicture';
import { VariantStrip } from './VariantStrip';
import { bestGround } from './bestOn';
import { ProofLink } from '../../components/ProofLink';
import { contrastWords } from '../../components/contrastWords';
import { useVariants } from './useVariants';

interface Props {
  readonly markId: string;
  readonly draft: RecipeDraft;
  readonly engine: Engine;
  readonly grounds: readonly ProofGround[];
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** Makes these variants what the brand's new marks start with. */
  /** Of the mark. */
  readonly name: string;
  readonly onStartSet: (variants: readonly Variant[]) => void;
}

const views = [
  { value: 'one', label: 'One' },
  { value: 'all', label: 'On every ground' },
];

/** One variant large, its sentence and its numbers beside it, the others as a strip; or all of them on all grounds. */
export function VariantsStage({ markId, name, draft, engine, grounds, palette, onStartSet }: Props) {
  const { recipe } = draft;
  const { variants } = recipe;
  const { shown, isSettled, problem } = useVariants(engine, recipe, grounds, palette);
  const [openId, setOpen] = useState<string | null>(null);
  const [groundId, setGround] = useState<string | null>(null);
  const [view, setView] = useState<'one' | 'all'>('one');
  const [boardProblem, setBoardProblem] = useState<string | null>(null);
  const [isActual, setActual] = useState(false);
  const photos = usePhotos(grounds.flatMap((g) => (g.url ? [g.url] : [])));
  const photoOf = (g: ProofGround) => (g.url ? (photos.get(g.url) ?? null) : null);
  const open = variants.find((v) => v.id === openId) ?? variants[0];
  const done = shown.get(open.id) ?? null;
  const ground = grounds.find((g) => g.id === groundId) ?? bestGround(done, grounds);
  const own = masterOf(engine.full ?? engine.quick)?.exactExtents ?? null;
  const strokes = useStrokes(engine.whole, recipe.stages);
  const change = (next: readonly Variant[], why: string, isFinal = true) => {
    const kept = new Set(next.map((v) => v.id));
    const files = { ...recipe.files, lines: recipe.files.lines.filter((l) => kept.has(l.variant)) };
    const changed = { ...recipe, variants: next, files };
    if (isFinal) draft.commit(changed, why);
    else draft.preview(changed);
  };
  const addAfter = (variant: Variant, why: string) => {
    const at = variants.indexOf(open) + 1;
    change([...variants.slice(0, at), variant, ...variants.slice(at)], why);
    setOpen(variant.id);
  };
  const saveBoard = async (format: 'png' | 'pdf') => {
    setBoardProblem(null);
    const on = grounds.map(({ id, name, hex }) => ({ name, hex, id: hex === null ? id : null }));
    await download(paths.markBoard(markId), { format, grounds: on }).catch((error: unknown) =>
      setBoardProblem(wordsFor(error)),
    );
  };
  const freshId = () => `variant-${Date.now().toString(36)}`;
  const add = () => {
    const fill = partOf(fills, 'oneColour', { colour: palette[0]?.hex ?? '#666666' });
    addAfter(variantOf(freshId(), freshName(variants), fill), 'Add a variant');
  };
  return (
    <div className="variants">
      <div className="variants-main">
        <header className="variants-head">
          <h2>Variants</h2>
          <Segmented
            size="small"
            aria-label="View"
            options={views}
            value={view}
            onChange={(v) => setView(v as 'one')}
          />
          {view === 'one' && (
            <button
              type="button"
              className="pill"
              aria-pressed={isActual}
              title="One pixel of the mark for one of the screen"
              onClick={() => setActual(!isActual)}
            >
              Actual size
            </button>
          )}
          <span className="soft variants-hint">All from one master; change it and they follow.</span>
          <ProofLink
            kind={view === 'all' ? 'board' : 'variants'}
            targetId={markId}
            title={name}
            settle={draft.settle}
          />
          <Button onClick={add}>Add a variant</Button>
        </header>
        {(problem ?? draft.problem ?? boardProblem) && (
          <p className="finding" role="alert">
            {problem ?? draft.problem ?? boardProblem}
          </p>
        )}
        {view === 'all' ? (
          <GroundTable
            variants={variants}
            shown={shown}
            grounds={grounds}
            photoOf={photoOf}
            open={open.id}
            onBoard={(format) => void saveBoard(format)}
            onOpen={(id, g) => {
              setOpen(id);
              setGround(g);
              setView('one');
            }}
          />
        ) : (
          <>
            <VariantPicture done={done} ground={ground} photo={photoOf(ground)} name={open.name} isActual={isActual} />
            {!isSettled && <p className="measuring small">Updating contrast</p>}
            <ul
              className={`variant-grounds${isSettled ? '' : ' is-old'}`}
              aria-label="Contrast on grounds"
              aria-busy={!isSettled}
            >
              {grounds.map((g) => {
                const { text, isWeak } = contrastWords(done?.contrast[g.id], g.hex === null);
                return (
                  <li key={g.id}>
                    <button type="button" aria-pressed={g.id === ground.id} onClick={() => setGround(g.id)}>
                      <i style={g.hex ? { background: g.hex } : { backgroundImage: `url(${g.url})` }} />
                      {g.name}
                      <span className={isWeak ? 'warn' : 'soft'}>{text}</span>
                    </button>
                  </li>
                );
              })}
            </ul>
          </>
        )}
        <VariantStrip
          variants={variants}
          shown={shown}
          grounds={grounds}
          photoOf={photoOf}
          open={open.id}
          onOpen={setOpen}
          onOrder={(ids) =>
            change(
              ids.map((id) => variants.find((v) => v.id === id) as Variant),
              'Order the variants',
            )
          }
        />
      </div>
      <VariantPanel
        key={open.id}
        variant={open}
        done={done}
        grounds={grounds}
        palette={palette}
        thin={
          own ? thinParts(open, { ...own, thinnestPx: strokes?.thinnestPx ?? null, gapPx: strokes?.gapPx ?? null }) : []
        }
        hasInk={recipe.stages.cutOut.way === 'paper' && recipe.stages.trace.use !== 'all'}
        isFirst={open === variants[0]}
        canRemove={variants.length > 1}
        onChange={(next, why, isFinal) =>
          change(
            variants.map((v) => (v.id === next.id ? next : v)),
            why,
            isFinal,
          )
        }
        onColours={async () =>
          (await (engine.whole ?? engine.fast)?.ask({ type: 'colours', values: recipe.stages })) ?? []
        }
        onStartSet={() => onStartSet(variants)}
        onFirst={() => change([open, ...variants.filter((v) => v !== open)], `Make ${open.name} the first`)}
        onCopy={() => addAfter({ ...open, id: freshId(), name: freshName(variants, open.name) }, `Copy ${open.name}`)}
        onRemove={() => {
          change(
            variants.filter((v) => v !== open),
            `Remove ${open.name}`,
          );
          setOpen(null);
        }}
      />
    </div>
  );
}

function freshName(variants: readonly Variant[], base = 'Variant'): string {
  const taken = new Set(variants.map((v) => v.name));
  const from = base === 'Variant' ? variants.length + 1 : 2;
  for (let n = from; ; n++) if (!taken.has(`${base} ${n}`)) return `${base} ${n}`;
}

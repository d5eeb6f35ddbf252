import './variants.css';
import { Button, Popconfirm } from 'antd';
import { useState } from 'react';
import { fills } from '../../../core/fills';
import { type Variant, partOf, variantOf } from '../../../core/recipe/recipe';
import type { VariantDone } from '../../../worker/protocol';
import type { ProofGround } from '../../data/proofGrounds';
import type { Engine } from '../../data/useEngine';
import type { RecipeDraft } from '../../data/useRecipeDraft';
import { VariantPicture } from './VariantPicture';
import { VariantSentence } from './VariantSentence';
import { contrastWords } from '../../components/contrastWords';
import { Sortable, useSortableItem } from '../../components/Sortable';
import { usePhotos } from '../../components/usePhoto';
import { useVariants } from './useVariants';

interface Props {
  readonly draft: RecipeDraft;
  readonly engine: Engine;
  readonly grounds: readonly ProofGround[];
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
}

/** The variants, each as a sentence whose parts are edited in place, on a ground, with its contrast on every ground. */
export function VariantsStage({ draft, engine, grounds, palette }: Props) {
  const { recipe } = draft;
  const { shown, problem } = useVariants(engine, recipe, grounds, palette);
  const change = (variants: readonly Variant[], why: string, isFinal = true) => {
    const kept = new Set(variants.map((v) => v.id));
    const files = { ...recipe.files, lines: recipe.files.lines.filter((l) => kept.has(l.variant)) };
    const next = { ...recipe, variants, files };
    if (isFinal) draft.commit(next, why);
    else draft.preview(next);
  };
  const add = () => {
    const id = `variant-${Date.now().toString(36)}`;
    const name = freshName(recipe.variants);
    const colour = palette[0]?.hex ?? '#6a2a5b';
    change([...recipe.variants, variantOf(id, name, partOf(fills, 'oneColour', { colour }))], 'Add a variant');
  };
  return (
    <div className="variants">
      <header className="variants-head">
        <h2>Variants</h2>
        <span className="soft">All from one master; change it and they follow.</span>
        <Button onClick={add}>Add a variant</Button>
      </header>
      {(problem ?? draft.problem) && (
        <p className="finding" role="alert">
          {problem ?? draft.problem}
        </p>
      )}
      <Sortable
        ids={recipe.variants.map((v) => v.id)}
        onOrder={(ids) =>
          change(
            ids.map((id) => recipe.variants.find((v) => v.id === id) as Variant),
            'Order the variants',
          )
        }
      >
        <div className="variants-grid">
          {recipe.variants.map((variant) => (
            <VariantCard
              key={variant.id}
              variant={variant}
              done={shown.get(variant.id) ?? null}
              grounds={grounds}
              palette={palette}
              canRemove={recipe.variants.length > 1}
              onChange={(v, why, isFinal) =>
                change(
                  recipe.variants.map((o) => (o.id === v.id ? v : o)),
                  why,
                  isFinal,
                )
              }
              onRemove={() =>
                change(
                  recipe.variants.filter((o) => o.id !== variant.id),
                  `Remove ${variant.name}`,
                )
              }
            />
          ))}
        </div>
      </Sortable>
    </div>
  );
}

interface CardProps {
  readonly variant: Variant;
  readonly done: VariantDone | null;
  readonly grounds: readonly ProofGround[];
  readonly palette: Props['palette'];
  readonly canRemove: boolean;
  readonly onChange: (variant: Variant, why: string, isFinal: boolean) => void;
  readonly onRemove: () => void;
}

function VariantCard({ variant, done, grounds, palette, canRemove, onChange, onRemove }: CardProps) {
  const [name, setName] = useState(variant.name);
  const { ref, style, handle } = useSortableItem(variant.id, variant.name);
  const [chosen, setChosen] = useState<string | null>(null);
  const photos = usePhotos(grounds.flatMap((g) => (g.url ? [g.url] : [])));
  // To begin with, the ground on which it reads best of the plain ones.
  const best = done
    ? grounds.filter((g) => g.hex).reduce((a, b) => ((done.contrast[b.id] ?? 0) > (done.contrast[a.id] ?? 0) ? b : a))
    : grounds[0];
  const ground = grounds.find((g) => g.id === chosen) ?? best;
  const rename = () => {
    if (name.trim() && name.trim() !== variant.name)
      onChange({ ...variant, name: name.trim() }, 'Rename a variant', true);
    else setName(variant.name);
  };
  return (
    <article ref={ref} style={style} className="variant" aria-label={variant.name}>
      <VariantPicture
        done={done}
        ground={ground}
        photo={ground.url ? (photos.get(ground.url) ?? null) : null}
        name={variant.name}
      />
      <div className="variant-line">
        {handle}
        <input
          className="variant-name"
          aria-label="Name of the variant"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
          onBlur={rename}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        {canRemove && (
          <Popconfirm
            title={`Remove ${variant.name}?`}
            description="Its size lines go with it. Undo brings both back."
            okText="Remove"
            cancelText="Keep"
            onConfirm={onRemove}
          >
            <button type="button" className="plain small">
              Remove
            </button>
          </Popconfirm>
        )}
      </div>
      <VariantSentence variant={variant} palette={palette} onChange={onChange} />
      <ul className="variant-grounds" aria-label="Contrast on grounds">
        {grounds.map((g) => {
          const { text, isWeak } = contrastWords(done?.contrast[g.id]);
          return (
            <li key={g.id}>
              <button type="button" aria-pressed={g.id === ground.id} onClick={() => setChosen(g.id)}>
                <i style={g.hex ? { background: g.hex } : { backgroundImage: `url(${g.url})` }} />
                {g.name}
                <span className={isWeak ? 'warn' : 'soft'}>{text}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </article>
  );
}

function freshName(variants: readonly Variant[]): string {
  const taken = new Set(variants.map((v) => v.name));
  for (let n = variants.length + 1; ; n++) if (!taken.has(`Variant ${n}`)) return `Variant ${n}`;
}

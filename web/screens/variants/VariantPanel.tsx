import { Popconfirm } from 'antd';
import { useState } from 'react';
import type { PairValue } from '../../../core/params';
import type { Variant } from '../../../core/recipe/recipe';
import type { ThinPart } from '../../../core/recipe/thinParts';
import { describeVariant, pathsEndAt } from '../../../core/recipe/runRecipe';
import type { VariantDone } from '../../../worker/protocol';
import type { ProofGround } from '../../data/proofGrounds';
import { VariantSentence } from './VariantSentence';
import { isWeakEverywhere } from './bestOn';
import { withNames } from './withNames';

interface Props {
  readonly variant: Variant;
  readonly done: VariantDone | null;
  readonly grounds: readonly ProofGround[];
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** Lines that may be too thin in small files. */
  readonly thin: readonly ThinPart[];
  /** The mark is ink on paper, whose pressure may show. */
  readonly hasInk?: boolean;
  readonly isFirst: boolean;
  readonly canRemove: boolean;
  readonly onChange: (variant: Variant, why: string, isFinal: boolean) => void;
  /** The master's own flat colours. */
  readonly onColours: () => Promise<readonly string[]>;
  readonly onFirst: () => void;
  /** All variants of this mark, for the brand's new marks. */
  readonly onStartSet: () => void;
  readonly onCopy: () => void;
  readonly onRemove: () => void;
}

/** What becomes of light areas inside a mark of one colour. */
const INSIDES = {
  open: 'In one colour they are left open, as gaps.',
  filled: 'They are filled with the same colour.',
};

/** A variant's name, its sentence and what may be done with it. */
export function VariantPanel(props: Props) {
  const {
    variant,
    done,
    grounds,
    palette,
    thin,
    hasInk,
    isFirst,
    canRemove,
    onChange,
    onColours,
    onFirst,
    onStartSet,
    onCopy,
    onRemove,
  } = props;
  const [isStart, setStart] = useState(false);
  const [name, setName] = useState(variant.name);
  const rename = () => {
    if (name.trim() && name.trim() !== variant.name)
      onChange({ ...variant, name: name.trim() }, 'Rename a variant', true);
    else setName(variant.name);
  };
  const { insides } = variant.fill.params as { insides?: string };
  const setInsides = (to: string) => {
    const fill = { ...variant.fill, params: { ...variant.fill.params, insides: to } };
    onChange({ ...variant, fill }, `Change ${variant.name}`, true);
  };
  const end = pathsEndAt(variant);
  return (
    <aside className="variant-panel" aria-label={variant.name}>
      <input
        className="variant-name"
        aria-label="Name of the variant"
        value={name}
        maxLength={80}
        onChange={(e) => setName(e.target.value)}
        onBlur={rename}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      <p className="variant-words">{withNames(describeVariant(variant), palette)}</p>
      <VariantSentence variant={variant} palette={palette} hasInk={hasInk} onChange={onChange} />
      {variant.fill.id === 'byColour' && (
        <button
          type="button"
          className="plain small"
          onClick={() =>
            void onColours().then((colours) => {
              const known = (variant.fill.params as { pairs: PairValue[] }).pairs;
              const fresh = colours.filter((from) => !known.some((p) => p.from === from));
              const pairs = [...known, ...fresh.map((from) => ({ from, to: from }))];
              onChange({ ...variant, fill: { id: 'byColour', params: { pairs } } }, `Change ${variant.name}`, true);
            })
          }
        >
          List the mark’s colours
        </button>
      )}
      {variant.fill.id === 'oneColour' && done?.hasLightInsides && (
        <p className="finding note small">
          <b>Light areas inside.</b> {INSIDES[insides === 'open' ? 'open' : 'filled']}{' '}
          <button
            type="button"
            className="plain small"
            onClick={() => setInsides(insides === 'open' ? 'filled' : 'open')}
          >
            {insides === 'open' ? 'Fill them' : 'Leave them open'}
          </button>
        </p>
      )}
      {isWeakEverywhere(done, grounds) && (
        <p className="finding small">
          <b>Seen well on none of these grounds.</b> A rim or a plate of another colour keeps it apart from what lies
          beneath.
        </p>
      )}
      {done && done.bitmap === null && (
        <p className="finding small">
          <b>Nothing to be seen.</b> The mark is empty, or all of its colours are left out.
        </p>
      )}
      {thin.length > 0 && (
        <dl className="facts thin-parts" aria-label="Lines">
          {thin.map(({ name: line, widthPx, leastMarkPx, leastMarkMm }) => (
            <div key={line}>
              <dt>{line}</dt>
              <dd>
                {widthPx < 10 ? widthPx.toFixed(1) : Math.round(widthPx)} px, fine from {leastMarkPx} px or{' '}
                {leastMarkMm < 10 ? leastMarkMm.toFixed(1) : Math.round(leastMarkMm)} mm wide on
              </dd>
            </div>
          ))}
        </dl>
      )}
      {end && (
        <p className="soft small">
          For PNG alone: {end.title.toLowerCase()} ends the paths, because {end.why}.
        </p>
      )}
      <div className="panel-links">
        <button type="button" className="plain small" onClick={onCopy}>
          Copy it
        </button>
        {!isFirst && (
          <button type="button" className="plain small" onClick={onFirst}>
            Make it the first
          </button>
        )}
        <button
          type="button"
          className="plain small"
          disabled={isStart}
          title="This mark’s variants become what new marks of the brand start with"
          onClick={() => {
            onStartSet();
            setStart(true);
          }}
        >
          {isStart ? 'New marks start with these' : 'Start new marks with these'}
        </button>
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
    </aside>
  );
}

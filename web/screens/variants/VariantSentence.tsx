import { casts } from '../../../core/casts';
import type { Decoration } from '../../../core/decoration';
import { fills } from '../../../core/fills';
import { PEN } from '../../../core/fills/penField';
import { type Part, type Variant, partOf } from '../../../core/recipe/recipe';
import type { Registry } from '../../../core/registry';
import { surrounds } from '../../../core/surrounds';
import { PartSentence } from '../../components/PartSentence';

interface Props {
  readonly variant: Variant;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** The mark is ink on paper, whose pressure may show. */
  readonly hasInk?: boolean;
  readonly onChange: (variant: Variant, why: string, isFinal: boolean) => void;
}

/** A variant read as a sentence; its parts are the controls. */
export function VariantSentence({ variant, palette, hasInk = false, onChange }: Props) {
  const change = (parts: Partial<Variant>, isFinal = true) =>
    onChange({ ...variant, ...parts }, `Change ${variant.name}`, isFinal);
  const add = (kind: 'surrounds' | 'casts', part: Part) => change({ [kind]: [...variant[kind], part] });
  return (
    <div className="sentence">
      <div className="sentence-line">
        The mark
        <PartSentence
          registry={fills}
          name="Fill"
          part={variant.fill}
          palette={palette}
          hidden={hasInk ? [] : [PEN]}
          onChange={(fill, isFinal) => change({ fill }, isFinal)}
        />
      </div>
      <Parts
        registry={surrounds}
        name="Surround"
        parts={variant.surrounds}
        palette={palette}
        onChange={(parts, isFinal) => change({ surrounds: parts }, isFinal)}
      />
      <Parts
        registry={casts}
        name="Cast"
        parts={variant.casts}
        palette={palette}
        onChange={(parts, isFinal) => change({ casts: parts }, isFinal)}
      />
      <div className="sentence-more">
        <span className="soft small">and with</span>
        {surrounds.all.map((d) => (
          <button key={d.id} type="button" className="pill" onClick={() => add('surrounds', partOf(surrounds, d.id))}>
            {d.title.toLowerCase()}
          </button>
        ))}
        {casts.all.map((d) => (
          <button key={d.id} type="button" className="pill" onClick={() => add('casts', partOf(casts, d.id))}>
            {d.title.toLowerCase()}
          </button>
        ))}
      </div>
    </div>
  );
}

interface PartsProps {
  readonly registry: Registry<Decoration>;
  readonly name: string;
  readonly parts: readonly Part[];
  readonly palette: Props['palette'];
  readonly onChange: (parts: readonly Part[], isFinal: boolean) => void;
}

/** Any number of parts, one after another in the sentence. */
function Parts({ registry, name, parts, palette, onChange }: PartsProps) {
  const move = (k: number) =>
    onChange(
      parts.map((p, n) => (n === k - 1 ? parts[k] : n === k ? parts[k - 1] : p)),
      true,
    );
  return (
    <>
      {parts.map((part, k) => (
        <div key={k} className="sentence-line">
          with
          <PartSentence
            registry={registry}
            name={name}
            part={part}
            palette={palette}
            onChange={(next, isFinal) =>
              onChange(
                parts.map((p, n) => (n === k ? next : p)),
                isFinal,
              )
            }
          >
            {k > 0 && (
              <button type="button" className="plain small" onClick={() => move(k)}>
                Move inwards
              </button>
            )}
            <button
              type="button"
              className="plain small"
              aria-label={`Take the ${registry.get(part.id).title.toLowerCase()} off`}
              onClick={() =>
                onChange(
                  parts.filter((_, n) => n !== k),
                  true,
                )
              }
            >
              Take off
            </button>
          </PartSentence>
        </div>
      ))}
    </>
  );
}

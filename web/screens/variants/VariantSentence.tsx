import { casts } from '../../../core/casts';
import type { Decoration } from '../../../core/decoration';
import { fills } from '../../../core/fills';
import { type Part, type Variant, partOf } from '../../../core/recipe/recipe';
import type { Registry } from '../../../core/registry';
import { surrounds } from '../../../core/surrounds';
import { PartSentence } from '../../components/PartSentence';

interface Props {
  readonly variant: Variant;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  readonly onChange: (variant: Variant, why: string, isFinal: boolean) => void;
}

/** A variant read as a sentence; its parts are the controls. */
export function VariantSentence({ variant, palette, onChange }: Props) {
  const change = (parts: Partial<Variant>, isFinal = true) =>
    onChange({ ...variant, ...parts }, `Change ${variant.name}`, isFinal);
  return (
    <div className="sentence">
      The mark
      <PartSentence
        registry={fills}
        name="Fill"
        part={variant.fill}
        palette={palette}
        onChange={(fill, isFinal) => change({ fill }, isFinal)}
      />
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

/** Any number of parts, one after another in the sentence; nothing where there is none to choose from. */
function Parts({ registry, name, parts, palette, onChange }: PartsProps) {
  if (registry.all.length === 0) return null;
  return (
    <>
      {parts.map((part, k) => (
        <PartSentence
          key={k}
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
            ×
          </button>
        </PartSentence>
      ))}
      <button
        type="button"
        className="plain small"
        onClick={() => onChange([...parts, partOf(registry, registry.ids[0])], true)}
      >
        add a {name.toLowerCase()}
      </button>
    </>
  );
}

import { Button } from 'antd';
import type { NamedGradient, PaletteColour } from '../../../contract/views';
import { StopsControl } from '../../components/ColourLists';
import { NameField } from './NameField';
import { freshName } from './freshName';

const MOST_GRADIENTS = 20;

interface Props {
  readonly gradients: readonly NamedGradient[];
  readonly palette: readonly PaletteColour[];
  readonly onChange: (gradients: readonly NamedGradient[]) => void;
}

/** The brand's gradients by name; variants that use one follow it. */
export function BrandGradients({ gradients, palette, onChange }: Props) {
  const replace = (k: number, next: NamedGradient) => onChange(gradients.map((g, n) => (n === k ? next : g)));
  const [a, b] = palette;
  const fresh = (): NamedGradient => ({
    name: freshName('Gradient', gradients),
    stops: [
      { at: 0, colour: a?.hex ?? '#000000' },
      { at: 1, colour: b?.hex ?? '#ffffff' },
    ],
  });
  return (
    <>
      <h3>Gradients</h3>
      <ul className="brand-gradients">
        {gradients.map((gradient, k) => (
          <GradientRow
            key={`${k}-${gradient.name}`}
            gradient={gradient}
            taken={gradients.filter((_, n) => n !== k).map((g) => g.name)}
            palette={palette}
            onChange={(next) => replace(k, next)}
            onRemove={() => onChange(gradients.filter((_, n) => n !== k))}
          />
        ))}
      </ul>
      {gradients.length < MOST_GRADIENTS && (
        <Button onClick={() => onChange([...gradients, fresh()])}>Add a gradient</Button>
      )}
    </>
  );
}

interface RowProps {
  readonly gradient: NamedGradient;
  readonly taken: readonly string[];
  readonly palette: readonly PaletteColour[];
  readonly onChange: (gradient: NamedGradient) => void;
  readonly onRemove: () => void;
}

function GradientRow({ gradient, taken, palette, onChange, onRemove }: RowProps) {
  return (
    <li>
      <div className="brand-gradient-head">
        <NameField
          isSmall
          label="Name of the gradient"
          value={gradient.name}
          taken={taken}
          onRename={(name) => onChange({ ...gradient, name })}
        />
        <button type="button" className="plain small" aria-label={`Remove ${gradient.name}`} onClick={onRemove}>
          Remove
        </button>
      </div>
      <StopsControl
        label={`Colours of ${gradient.name}`}
        value={gradient.stops}
        palette={palette}
        onCommit={(stops) => onChange({ ...gradient, stops })}
      />
    </li>
  );
}

import { ColorPicker, Select } from 'antd';
import { fills } from '../../../core/fills';
import { initialValues } from '../../../core/params';
import type { Variant } from '../../../core/recipe/recipe';

interface Props {
  readonly variant: Variant;
  readonly onChange: (variant: Variant, why: string, isFinal: boolean) => void;
}

const presets = [{ label: 'Plain', colors: ['#000000', '#ffffff', '#808080'] }];

/** A variant read as a sentence; its parts are the controls. */
export function VariantSentence({ variant, onChange }: Props) {
  const { fill } = variant;
  const set = (params: Record<string, unknown>, isFinal = true) =>
    onChange(
      { ...variant, fill: { id: fill.id, params: { ...fill.params, ...params } } },
      `Change ${variant.name}`,
      isFinal,
    );
  const colour = String(fill.params.colour ?? '#000000');
  return (
    <div className="sentence">
      The mark
      <Select
        size="small"
        variant="borderless"
        aria-label="Fill"
        className="sentence-part"
        popupMatchSelectWidth={false}
        value={fill.id}
        options={fills.all.map((f) => ({ value: f.id, label: f.title.toLowerCase() }))}
        onChange={(id) =>
          onChange(
            { ...variant, fill: { id, params: initialValues(fills.get(id).params) } },
            `Change ${variant.name}`,
            true,
          )
        }
      />
      {fill.id === 'oneColour' && (
        <>
          <ColorPicker
            size="small"
            disabledAlpha
            presets={presets}
            value={colour}
            showText={(c) => c.toHexString().toUpperCase()}
            onChange={(c) => set({ colour: c.toHexString() }, false)}
            onChangeComplete={(c) => set({ colour: c.toHexString() })}
          />
          with inner light areas
          <Select
            size="small"
            variant="borderless"
            aria-label="Inner light areas"
            className="sentence-part"
            popupMatchSelectWidth={false}
            value={String(fill.params.insides)}
            options={[
              { value: 'open', label: 'open' },
              { value: 'filled', label: 'filled' },
            ]}
            onChange={(insides) => set({ insides })}
          />
        </>
      )}
    </div>
  );
}

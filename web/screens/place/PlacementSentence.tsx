import { InputNumber, Popover, Select, Slider } from 'antd';
import { type ReactNode, useState } from 'react';
import type { MarkCard } from '../../../contract/views';
import { blendModes } from '../../../core/colour/blend';
import type { Length, Shared } from '../../../core/placements/lengths';
import { ANCHORS } from '../../../core/placements/placement';
import { EDGES, type Item, type MarkItem, type StripItem, isStrip } from '../../../core/placements/readPlacement';
import type { Variant } from '../../../core/recipe/recipe';
import { ColourChoice } from '../../components/ColourChoice';
import { lengthWords, placeWords, variantWords } from './placementWords';

interface Props {
  readonly item: Item;
  readonly marks: readonly MarkCard[];
  readonly variants: readonly Variant[];
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** The place by name that would read best on the ground shown. */
  readonly better: string | null;
  readonly onChange: (item: Item) => void;
}

/** An item of a placement read as a sentence; each part of it is edited where it stands. */
export function PlacementSentence(props: Props) {
  const { item, onChange } = props;
  return (
    <div className="place-sentence">
      {isStrip(item) ? (
        <StripSentence item={item} palette={props.palette} onChange={onChange} />
      ) : (
        <MarkSentence {...props} item={item} />
      )}
    </div>
  );
}

function MarkSentence({ item, marks, variants, better, onChange }: Props & { item: MarkItem }) {
  const set = (change: Partial<MarkItem>) => onChange({ ...item, ...change });
  const many = item.variant === 'auto' ? [] : typeof item.variant === 'string' ? [item.variant] : [...item.variant];
  return (
    <>
      <Part name="Mark" text={marks.find((m) => m.id === item.mark)?.name ?? 'a removed mark'}>
        <Select
          aria-label="Mark"
          style={{ width: 220 }}
          value={item.mark}
          options={marks.map((m) => ({ value: m.id, label: m.name }))}
          onChange={(mark) => set({ mark, variant: 'auto' })}
        />
      </Part>
      {', '}
      <Part name="Variant" text={variantWords(item, variants)}>
        <Select
          aria-label="Variants"
          mode="multiple"
          style={{ width: 260 }}
          placeholder="Any that reads best"
          value={many}
          options={variants.map((v) => ({ value: v.id, label: v.name }))}
          onChange={(ids: string[]) => set({ variant: ids.length === 0 ? 'auto' : ids.length === 1 ? ids[0] : ids })}
        />
        <p className="soft small">Of several the one with the best contrast is taken, ground by ground.</p>
      </Part>
      {', '}
      <Part name="Place" text={placeWords(item.at)}>
        <div className="place-nine" role="radiogroup" aria-label="Place">
          {ANCHORS.map((at) => (
            <button
              key={at}
              type="button"
              role="radio"
              aria-checked={item.at === at}
              aria-label={placeWords(at)}
              className={`${item.at === at ? 'is-on' : ''}${better === at ? ' is-better' : ''}`}
              onClick={() => set({ at })}
            />
          ))}
        </div>
      </Part>
      {typeof item.at === 'string' && item.at !== 'centre' && (
        <>
          {', '}
          <Part name="Distance from the edges" text={`${lengthWords(item.inset)} from the edges`}>
            <LengthInput name="Distance" length={item.inset} onChange={(inset) => set({ inset })} />
          </Part>
        </>
      )}
      {', '}
      <Part name="Size" text={`${lengthWords(item.size)}${item.size.of === 'height' ? '' : ' wide'}`}>
        <LengthInput name="Size" length={item.size} hasShares onChange={(size) => set({ size })} />
      </Part>
      {', '}
      <Part name="Opacity" text={`${Math.round(item.opacity * 100)} % opaque`}>
        <Slider
          ariaLabelForHandle="Opacity"
          style={{ width: 200 }}
          min={5}
          max={100}
          defaultValue={Math.round(item.opacity * 100)}
          onChangeComplete={(v: number) => set({ opacity: v / 100 })}
        />
      </Part>
      {', '}
      <Part name="Blend and turn" text={moreWords(item)}>
        <label className="place-field">
          Blend
          <Select
            aria-label="Blend"
            style={{ width: 140 }}
            value={item.blend}
            options={blendModes.map((m) => ({ value: m, label: m.replace('-', ' ') }))}
            onChange={(blend) => set({ blend })}
          />
        </label>
        <label className="place-field">
          Turned
          <InputNumber
            aria-label="Turned"
            min={-180}
            max={180}
            suffix="°"
            style={{ width: 140 }}
            value={item.turnDeg}
            onChange={(v) => v !== null && set({ turnDeg: v })}
          />
        </label>
      </Part>
      .
    </>
  );
}

const moreWords = ({ blend, turnDeg }: MarkItem): string => {
  const words = [
    ...(blend === 'normal' ? [] : [`blended by ${blend.replace('-', ' ')}`]),
    ...(turnDeg === 0 ? [] : [`turned by ${turnDeg}°`]),
  ];
  return words.join(', ') || 'level';
};

function StripSentence({ item, palette, onChange }: { item: StripItem } & Pick<Props, 'palette' | 'onChange'>) {
  const set = (change: Partial<StripItem['strip']>) => onChange({ ...item, strip: { ...item.strip, ...change } });
  return (
    <>
      A strip of{' '}
      <ColourChoice
        name="Colour of the strip"
        hex={item.strip.colour}
        palette={palette}
        onChange={(colour) => set({ colour })}
      />{' '}
      at the{' '}
      <Part name="Edge" text={`${item.strip.edge} edge`}>
        <Select
          aria-label="Edge"
          style={{ width: 140 }}
          value={item.strip.edge}
          options={EDGES.map((edge) => ({ value: edge, label: edge }))}
          onChange={(edge) => set({ edge })}
        />
      </Part>
      {', '}
      <Part name="Height" text={`${item.strip.heightPx} px`}>
        <InputNumber
          aria-label="Height of the strip"
          min={1}
          max={16_384}
          precision={0}
          suffix="px"
          value={item.strip.heightPx}
          onChange={(v) => v !== null && set({ heightPx: v })}
        />
      </Part>
      .
    </>
  );
}

/** A few words that open what they stand for. */
function Part({ name, text, children }: { name: string; text: string; children: ReactNode }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover
      trigger="click"
      placement="bottomLeft"
      open={isOpen}
      onOpenChange={setOpen}
      destroyOnHidden
      content={<div className="place-popover">{children}</div>}
    >
      {/* Words of a sentence break over lines, which no button does. */}
      <span
        role="button"
        tabIndex={0}
        className="place-part"
        aria-label={`${name}: ${text}`}
        aria-expanded={isOpen}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' && e.key !== ' ') return;
          e.preventDefault();
          setOpen(!isOpen);
        }}
      >
        {text}
      </span>
    </Popover>
  );
}

const SHARES: { value: Shared; label: string }[] = [
  { value: 'width', label: '% of width' },
  { value: 'height', label: '% of height' },
  { value: 'short side', label: '% of short side' },
  { value: 'area', label: '% of area' },
];

function LengthInput({
  name,
  length,
  hasShares = false,
  onChange,
}: {
  name: string;
  length: Length;
  hasShares?: boolean;
  onChange: (length: Length) => void;
}) {
  const unit = length.unit === 'pct' ? (length.of ?? (hasShares ? 'width' : 'short side')) : length.unit;
  const options = [
    ...(hasShares ? SHARES : [SHARES[2]]),
    ...(['px', 'mm'] as const).map((value) => ({ value, label: value })),
  ];
  const withUnit = (value: number, next: string): Length => {
    if (next === 'px' || next === 'mm') return { value, unit: next };
    const isUsual = next === (hasShares ? 'width' : 'short side');
    return { value, unit: 'pct', ...(isUsual ? {} : { of: next as Shared }) };
  };
  return (
    <div className="place-length">
      <InputNumber
        aria-label={name}
        min={hasShares ? 0.1 : 0}
        max={length.unit === 'pct' ? 100 : 16_000}
        step={length.unit === 'pct' ? 1 : 10}
        value={length.value}
        onChange={(value) => value !== null && onChange(withUnit(value, unit))}
      />
      <Select
        aria-label={`Unit of ${name.toLowerCase()}`}
        style={{ width: 140 }}
        value={unit}
        options={options}
        onChange={(next) => onChange(withUnit(Math.min(length.value, next === 'px' ? 16_000 : 100), next))}
      />
    </div>
  );
}

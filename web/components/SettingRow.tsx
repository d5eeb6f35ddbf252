import { Input, InputNumber, Segmented, Select, Switch } from 'antd';
import { type ReactNode, useState } from 'react';
import { type PairValue, type Setting, type SettingMeta, type StopValue, metaOf } from '../../core/params';
import { ColourChoice } from './ColourChoice';
import { PairsControl, StopsControl } from './ColourLists';

interface Props {
  readonly setting: Setting<never>;
  readonly value: unknown;
  /** In place of the setting's own label or hint, where the screen knows more. */
  readonly label?: string;
  readonly hint?: ReactNode;
  /** Colours to choose from. */
  readonly palette?: readonly { readonly name: string; readonly hex: string }[];
  readonly onPreview?: (value: unknown) => void;
  readonly onCommit: (value: unknown) => void;
}

/** More choices than this want a list that opens. */
const MOST_SIDE_BY_SIDE = 3;

/** One setting as a row: what it is called and does, and the control that its schema asks for. */
export function SettingRow({ setting, value, label, hint, ...rest }: Props) {
  const meta = metaOf(setting as unknown as Setting<unknown>);
  const shownHint = hint ?? meta.hint;
  const isWide = meta.kind === 'choice' && (meta.choices?.length ?? 0) <= MOST_SIDE_BY_SIDE && wordsIn(meta) > 22;
  return (
    <div className={isWide ? 'panel-field' : 'panel-row'}>
      <span>
        <b>{label ?? meta.label}</b>
        {shownHint && <small className="soft">{shownHint}</small>}
      </span>
      <SettingControl meta={meta} value={value} {...rest} />
    </div>
  );
}

const wordsIn = (meta: SettingMeta) => (meta.choices ?? []).reduce((sum, c) => sum + c.label.length, 0);

interface ControlProps extends Pick<Props, 'value' | 'palette' | 'onPreview' | 'onCommit'> {
  readonly meta: SettingMeta;
  readonly width?: number;
  /** It stands among words: a choice then reads as one of them. */
  readonly isInline?: boolean;
}

/** The control alone, its name the setting's own. */
export function SettingControl({
  meta,
  value,
  palette = [],
  width = 104,
  isInline = false,
  onPreview,
  onCommit,
}: ControlProps) {
  switch (meta.kind) {
    case 'number':
      return (
        <InputNumber
          size="small"
          aria-label={meta.label}
          min={meta.min}
          max={meta.max}
          step={meta.step}
          precision={digitsOf(meta.step ?? 1)}
          value={value as number | null}
          placeholder={meta.isOptional ? 'automatic' : undefined}
          onChange={(v) => (v !== null || meta.isOptional) && v !== value && onCommit(v)}
          suffix={meta.unit}
          changeOnWheel={false}
          style={{ width, flex: 'none' }}
        />
      );
    case 'flag':
      return <Switch size="small" aria-label={meta.label} checked={value === true} onChange={onCommit} />;
    case 'colour':
    case 'colours': {
      const hex = meta.kind === 'colour' ? String(value) : ((value as string[])[0] ?? '#000000');
      const wrap = (v: string) => (meta.kind === 'colour' ? v : [v]);
      return (
        <ColourChoice
          name={meta.label}
          hex={hex}
          palette={palette}
          onPreview={(v) => onPreview?.(wrap(v))}
          onChange={(v) => onCommit(wrap(v))}
        />
      );
    }
    case 'choice': {
      const words = (label: string) => (isInline ? label.toLowerCase() : label);
      const options = (meta.choices ?? []).map((c) => ({ value: c.value, label: words(c.label) }));
      if (options.length > MOST_SIDE_BY_SIDE || isInline)
        return (
          <Select
            size="small"
            {...(isInline ? INLINE : { style: { width: 132 } })}
            aria-label={meta.label}
            value={String(value)}
            options={options}
            popupMatchSelectWidth={false}
            onChange={onCommit}
          />
        );
      return (
        <Segmented size="small" aria-label={meta.label} value={String(value)} options={options} onChange={onCommit} />
      );
    }
    case 'text':
      return (
        <TextControl key={String(value)} label={meta.label} most={meta.max} value={String(value)} onCommit={onCommit} />
      );
    case 'stops':
      return <StopsControl label={meta.label} value={value as StopValue[]} palette={palette} onCommit={onCommit} />;
    case 'pairs':
      return <PairsControl label={meta.label} value={value as PairValue[]} palette={palette} onCommit={onCommit} />;
    default:
      return null;
  }
}

interface TextProps {
  readonly label: string;
  readonly most: number | undefined;
  readonly value: string;
  readonly onCommit: (value: string) => void;
}

function TextControl({ label, most, value, onCommit }: TextProps) {
  const [text, setText] = useState(value);
  const commit = () => text !== value && onCommit(text);
  return (
    <Input
      size="small"
      aria-label={label}
      value={text}
      maxLength={most}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onPressEnter={commit}
      style={{ width: 132 }}
    />
  );
}

const INLINE = { variant: 'borderless', className: 'sentence-part' } as const;

const digitsOf = (step: number) => (Number.isInteger(step) ? 0 : String(step).split('.')[1].length);

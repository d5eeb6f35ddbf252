import { Input, InputNumber, Segmented } from 'antd';
import { useState } from 'react';
import type { TypeOptions } from '../../../core/type/setType';
import { type TypefaceId, typefaces } from '../../../core/type/typefaces';
import { boundsOfPath, printPath } from '../../../core/vector/path';
import { InkSwatches } from './InkSwatches';
import { useTypeset } from './useTypeset';

export interface TypeValues extends TypeOptions {
  readonly text: string;
  readonly typeface: TypefaceId;
}

export const startType: TypeValues = {
  text: '',
  typeface: 'great-vibes',
  sizePx: 160,
  spacing: 0,
  lineHeight: 1.2,
  align: 'left',
};

interface Props {
  readonly values: TypeValues;
  readonly colour: string;
  readonly palette: readonly { name: string; hex: string }[];
  readonly brandName: string;
  readonly onChange: (values: TypeValues) => void;
  readonly onColour: (hex: string) => void;
}

const MOST_LETTERS = 80;

/** One or more lines in a typeface that comes with the program. */
export function TypeSetter({ values, colour, palette, brandName, onChange, onColour }: Props) {
  const [tone, setTone] = useState<'light' | 'dark'>('light');
  const { text, typeface, sizePx, spacing, lineHeight, align } = values;
  const { path, problem } = useTypeset(text, typeface, values);
  const box = path && boundsOfPath(path);
  const room = box ? Math.max(box.width, box.height) * 0.06 : 0;
  const set = (change: Partial<TypeValues>) => onChange({ ...values, ...change });
  const append = (words: string) =>
    set({ text: `${text}${text && !text.endsWith('\n') && !text.endsWith(' ') ? ' ' : ''}${words}` });
  const number = (
    label: string,
    value: number,
    limits: { min: number; max: number; step: number; suffix: string },
    change: (value: number) => Partial<TypeValues>,
  ) => (
    <label className="panel-field">
      <b>{label}</b>
      <InputNumber
        size="small"
        aria-label={label}
        value={value}
        {...limits}
        onChange={(v) => v !== null && set(change(v))}
      />
    </label>
  );
  return (
    <section className="pad" aria-label="Type">
      <div className="pad-tools">
        <Segmented
          size="small"
          aria-label="Sheet’s tone"
          value={tone}
          onChange={(v) => setTone(v as 'light' | 'dark')}
          options={[
            { value: 'light', label: 'light sheet' },
            { value: 'dark', label: 'dark sheet' },
          ]}
        />
        <InkSwatches colour={colour} palette={palette} onColour={onColour} />
      </div>
      <svg
        className={`pad-sheet ${tone}`}
        viewBox={
          box ? `${box.x - room} ${box.y - room} ${box.width + 2 * room} ${box.height + 2 * room}` : '0 0 1000 460'
        }
        role="img"
        aria-label="The mark as it will be"
      >
        {path && box && <path d={printPath(path, 2)} fill={colour} />}
      </svg>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
      <div className="type-form">
        <div className="panel-field type-text">
          <b>Text</b>
          <Input.TextArea
            aria-label="Text"
            autoSize={{ minRows: 2, maxRows: 5 }}
            value={text}
            placeholder="A name, or a few words"
            onChange={(e) =>
              set({
                text: e.target.value
                  .split('\n')
                  .slice(0, 8)
                  .map((l) => l.slice(0, MOST_LETTERS))
                  .join('\n'),
              })
            }
          />
          <span className="panel-links">
            <button type="button" className="plain small" onClick={() => append('©')}>
              add ©
            </button>
            <button type="button" className="plain small" onClick={() => append(String(new Date().getFullYear()))}>
              add the year
            </button>
            <button type="button" className="plain small" onClick={() => append(brandName)}>
              add the brand’s name
            </button>
          </span>
        </div>
        <div className="panel-field">
          <b>Typeface</b>
          <span className="type-faces" role="radiogroup" aria-label="Typeface">
            {typefaces.map((t) => (
              <button
                key={t.id}
                type="button"
                role="radio"
                aria-checked={t.id === typeface}
                className="pill"
                onClick={() => set({ typeface: t.id })}
              >
                {t.title}
              </button>
            ))}
          </span>
        </div>
        <div className="type-numbers">
          {number('Size', sizePx, { min: 8, max: 600, step: 4, suffix: 'px' }, (v) => ({ sizePx: v }))}
          {number('Letter spacing', Math.round(spacing * 100), { min: -20, max: 100, step: 1, suffix: '%' }, (v) => ({
            spacing: v / 100,
          }))}
          {number('Line spacing', Math.round(lineHeight * 100), { min: 60, max: 300, step: 5, suffix: '%' }, (v) => ({
            lineHeight: v / 100,
          }))}
          <div className="panel-field">
            <b>Alignment</b>
            <Segmented
              size="small"
              aria-label="Alignment"
              value={align}
              options={['left', 'centre', 'right']}
              onChange={(v) => set({ align: v as TypeValues['align'] })}
            />
          </div>
        </div>
      </div>
    </section>
  );
}

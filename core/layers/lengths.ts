import type { DecorationContext } from '../decoration';
import { choiceField, numberField } from '../params';

export type LengthUnit = 'px' | 'pct' | 'mm';

/** A length in its own unit; see `unitField`. */
export const lengthField = (label: string, initial: number, hint?: string) =>
  numberField({ label, hint, initial, min: 0, max: 1000, step: 0.5 });

/** What the lengths of a part are in. */
export const unitField = choiceField({
  label: 'Unit',
  initial: 'pct',
  hint: 'Shares are of the mark’s height.',
  choices: [
    { value: 'pct', label: '%' },
    { value: 'px', label: 'px' },
    { value: 'mm', label: 'mm' },
  ],
});

/** A length in full-size pixels of the artwork. */
export function lengthPx(value: number, unit: string, ctx: DecorationContext): number {
  if (unit === 'pct') return (value / 100) * ctx.markHeightPx;
  return value * (unit === 'mm' ? ctx.mmLength : ctx.pxLength);
}

/** A length as words: 4 %, 12 px. */
export const lengthWords = (value: number, unit: string): string => `${value} ${unit === 'pct' ? '%' : unit}`;

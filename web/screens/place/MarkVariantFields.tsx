import { Select } from 'antd';
import type { ReactNode } from 'react';
import type { Variant } from '../../../core/recipe/recipe';

/** A label and what is set under it, in one row of a side panel. */
export function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="place-field sheet-field">
      <span>{label}</span>
      {children}
    </label>
  );
}

interface Props {
  readonly marks: readonly { readonly id: string; readonly name: string }[];
  readonly markId: string;
  readonly variants: readonly Variant[];
  readonly variant: string;
  readonly onChange: (markId: string, variant: string) => void;
}

/** Which mark, and in which variant: another mark begins in its colours. */
export function MarkVariantFields({ marks, markId, variants, variant, onChange }: Props) {
  return (
    <>
      <Field label="Mark">
        <Select
          aria-label="Mark"
          value={markId}
          options={marks.map((m) => ({ value: m.id, label: m.name }))}
          onChange={(id) => onChange(id, 'colour')}
        />
      </Field>
      <Field label="Variant">
        <Select
          aria-label="Variant"
          value={variant}
          options={variants.map((v) => ({ value: v.id, label: v.name }))}
          onChange={(id) => onChange(markId, id)}
        />
      </Field>
    </>
  );
}

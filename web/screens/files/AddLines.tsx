import { Button, Select } from 'antd';
import { useState } from 'react';
import { purposes } from '../../../core/purposes';
import { type SizeLine, type Variant, lineOf } from '../../../core/recipe/recipe';
import type { OwnPurpose } from '../../../core/recipe/standardLines';

interface Props {
  readonly variants: readonly Variant[];
  readonly ownPurposes: readonly OwnPurpose[];
  readonly onLine: () => void;
  /** Lines whose ids are yet to be given. */
  readonly onMany: (lines: readonly SizeLine[], why: string) => void;
}

/** One more line, or a purpose for many variants at once. */
export function AddLines({ variants, ownPurposes, onLine, onMany }: Props) {
  const [picked, setPicked] = useState<readonly string[]>([]);
  const chosen = picked.length > 0 ? variants.filter((v) => picked.includes(v.id)) : variants;
  const addOwn = ({ title, ...own }: OwnPurpose) =>
    onMany(
      chosen.map((v) => ({ ...own, id: '', variant: v.id })),
      `Add ${title}`,
    );
  return (
    <div className="files-add">
      <Button onClick={onLine}>Add a line</Button>
      <span className="soft">or for</span>
      <Select
        mode="multiple"
        size="small"
        aria-label="Variants to add lines for"
        placeholder="all variants"
        maxTagCount={2}
        value={[...picked]}
        options={variants.map((v) => ({ value: v.id, label: v.name }))}
        onChange={setPicked}
        style={{ minWidth: 128 }}
      />
      {purposes.all.map((p) => (
        <button
          key={p.id}
          type="button"
          className="plain"
          title={p.hint}
          onClick={() =>
            onMany(
              chosen.map((v) => lineOf('', v.id, p)),
              `Add ${p.title.toLowerCase()} sizes`,
            )
          }
        >
          {p.title.toLowerCase()}
        </button>
      ))}
      {ownPurposes.map((own) => (
        <button key={own.title} type="button" className="plain" onClick={() => addOwn(own)}>
          {own.title}
        </button>
      ))}
    </div>
  );
}

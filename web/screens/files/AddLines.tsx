import { Button, Select } from 'antd';
import { useState } from 'react';
import { purposes } from '../../../core/purposes';
import { fitSize } from '../../../core/recipe/fitSize';
import { type SizeLine, type Variant, lineOf } from '../../../core/recipe/recipe';
import type { OwnPurpose } from '../../../core/recipe/standardLines';
import type { ArtworkShown } from '../../../worker/protocol';

type Master = Pick<ArtworkShown, 'hasPaths' | 'exactExtents'> | null;

interface Props {
  readonly variants: readonly Variant[];
  readonly ownPurposes: readonly OwnPurpose[];
  /** Lines are made small enough for it; null before it is known. */
  readonly master: Master;
  readonly onLine: () => void;
  /** Lines whose ids are yet to be given. */
  readonly onMany: (lines: readonly SizeLine[], why: string) => void;
}

/** One more line, or a purpose for many variants at once. */
export function AddLines({ variants, ownPurposes, master, onLine, onMany }: Props) {
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
              chosen.map((v) => lineOf('', v.id, fittedPurpose(p.id, master))),
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

/** A purpose whose size does not enlarge the mark. */
export function fittedPurpose(id: string, master: Master) {
  const purpose = purposes.get(id);
  const extents = master?.hasPaths ? null : master?.exactExtents;
  return extents ? { ...purpose, size: fitSize(purpose.size, extents) } : purpose;
}

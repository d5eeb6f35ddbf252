import { InputNumber, Select } from 'antd';
import { purposes } from '../../../core/purposes';
import type { SizeLine, Variant } from '../../../core/recipe/recipe';
import type { PlannedLine } from './FilesStage';

interface Props {
  readonly planned: PlannedLine;
  readonly variants: readonly Variant[];
  readonly onChange: (line: SizeLine) => void;
  readonly onRemove: () => void;
}

/** One size line: variant, purpose, width, clear space, and the file that it becomes. */
export function SizeLineRow({ planned, variants, onChange, onRemove }: Props) {
  const { line, name, height, enlargement } = planned;
  const setPurpose = (id: string) => {
    const p = purposes.get(id);
    onChange({ ...line, purpose: id, widthPx: p.widthPx, paddingPct: p.paddingPct });
  };
  return (
    <tr>
      <td>
        <Select
          size="small"
          aria-label="Variant"
          value={line.variant}
          style={{ width: 118 }}
          options={variants.map((v) => ({ value: v.id, label: v.name }))}
          onChange={(variant) => onChange({ ...line, variant })}
        />
      </td>
      <td>
        <Select
          size="small"
          aria-label="Purpose"
          value={line.purpose}
          style={{ width: 122 }}
          options={purposes.all.map((p) => ({ value: p.id, label: p.title }))}
          onChange={setPurpose}
        />
      </td>
      <td>
        <InputNumber
          size="small"
          aria-label="Width"
          min={8}
          max={16384}
          precision={0}
          value={line.widthPx}
          suffix="px"
          style={{ width: 96 }}
          onChange={(v) => v !== null && v !== line.widthPx && onChange({ ...line, widthPx: v })}
          changeOnWheel={false}
        />
      </td>
      <td>
        <InputNumber
          size="small"
          aria-label="Clear space"
          min={0}
          max={40}
          step={1}
          value={line.paddingPct}
          suffix="%"
          style={{ width: 78 }}
          onChange={(v) => v !== null && v !== line.paddingPct && onChange({ ...line, paddingPct: v })}
        />
      </td>
      <td className="lines-file">
        <span title={`${name}.png`}>{name ? `${name}.png` : planned.problem}</span>
        <span className="soft small">
          {height !== null && `${line.widthPx} × ${height} px`}
          {enlargement > 1.01 && <span className="warn"> · enlarged {enlargement.toFixed(1)} times</span>}
        </span>
      </td>
      <td>
        <button type="button" className="plain" aria-label={`Remove ${name}`} onClick={onRemove}>
          ✕
        </button>
      </td>
    </tr>
  );
}

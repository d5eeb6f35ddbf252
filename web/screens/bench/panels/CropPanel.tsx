import { Button, InputNumber } from 'antd';
import type { MarkView } from '../../../../contract/views';
import type { RectPx } from '../../../../core/params';

interface Props {
  readonly mark: MarkView;
  readonly rect: RectPx | null;
  readonly extents: RectPx | null;
  readonly onChange: (rect: RectPx | null) => void;
}

/** The crop region by numbers. */
export function CropPanel({ mark, rect, extents, onChange }: Props) {
  const r = rect ?? { x: 0, y: 0, width: mark.width, height: mark.height };
  const set = (key: keyof RectPx, value: number | null) => {
    if (value === null) return;
    const next = { ...r, [key]: value };
    const x = Math.min(Math.max(0, next.x), mark.width - 4);
    const y = Math.min(Math.max(0, next.y), mark.height - 4);
    onChange({ x, y, width: Math.max(4, Math.min(next.width, mark.width - x)), height: Math.max(4, Math.min(next.height, mark.height - y)) });
  };
  const fields: [keyof RectPx, string, number][] = [['x', 'From the left', mark.width], ['y', 'From the top', mark.height], ['width', 'Width', mark.width], ['height', 'Height', mark.height]];
  const roundMark = () => {
    if (!extents) return;
    const room = Math.round(Math.max(extents.width, extents.height) * 0.06) + 4;
    const x = Math.max(0, Math.floor(extents.x - room));
    const y = Math.max(0, Math.floor(extents.y - room));
    onChange({ x, y, width: Math.min(mark.width - x, Math.ceil(extents.width + 2 * room)), height: Math.min(mark.height - y, Math.ceil(extents.height + 2 * room)) });
  };
  return (
    <>
      <header><h2>Crop</h2><span className="soft">What lies outside is left out of every later step</span></header>
      {fields.map(([key, label, most]) => (
        <label key={key} className="panel-row"><b>{label}</b>
          <InputNumber size="small" aria-label={label} min={key === 'x' || key === 'y' ? 0 : 4} max={most} precision={0} value={Math.round(r[key])} onChange={(v) => set(key, v)} suffix="px" style={{ width: 120 }} />
        </label>
      ))}
      <div className="panel-buttons">
        <Button size="small" onClick={roundMark} disabled={!extents}>Close round the mark</Button>
        <Button size="small" onClick={() => onChange(null)} disabled={!rect}>Whole picture</Button>
      </div>
    </>
  );
}

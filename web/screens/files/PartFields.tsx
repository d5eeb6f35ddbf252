import { InputNumber, Select } from 'antd';
import { useState } from 'react';
import { type Setting, initialValues, metaOf } from '../../../core/params';
import { type Part, partOf } from '../../../core/recipe/recipe';
import type { Registry, WithParams } from '../../../core/registry';
import { SettingRow } from '../../components/SettingRow';

interface Props {
  readonly registry: Registry<WithParams>;
  /** What is chosen here, such as "Size". */
  readonly name: string;
  readonly part: Part;
  readonly onChange: (part: Part) => void;
}

/** A choice from a registry with every setting that goes with it, one under another. */
export function PartFields({ registry, name, part, onChange }: Props) {
  const { params } = registry.get(part.id);
  const set = (setting: string, value: unknown) =>
    onChange({ id: part.id, params: { ...part.params, [setting]: value } });
  return (
    <div className="part-fields" role="group" aria-label={name}>
      <div className="panel-row">
        <b>{name}</b>
        <Select
          size="small"
          aria-label={name}
          value={part.id}
          popupMatchSelectWidth={false}
          options={registry.all.map((d) => ({ value: d.id, label: d.title }))}
          onChange={(id) => onChange(partOf(registry, id, sharedOf(registry, id, part)))}
        />
      </div>
      {Object.entries(params).map(([setting, schema]) =>
        metaOf(schema).unit === 'mm' && part.id === 'physical' ? (
          <LengthRow
            key={setting}
            setting={schema}
            mm={Number(part.params[setting])}
            onCommit={(mm) => set(setting, mm)}
          />
        ) : (
          <SettingRow
            key={setting}
            setting={schema as Setting<never>}
            value={part.params[setting]}
            onCommit={(value) => set(setting, value)}
          />
        ),
      )}
    </div>
  );
}

/** Settings that another definition has too keep their values when it is chosen. */
function sharedOf(registry: Registry<WithParams>, id: string, part: Part): Record<string, unknown> {
  const own = initialValues(registry.get(id).params);
  return Object.fromEntries(Object.entries(part.params).filter(([setting]) => setting in own));
}

const UNITS = { mm: 1, cm: 10, in: 25.4 } as const;
type Unit = keyof typeof UNITS;
const KEY = 'tassel-length-unit';
const knownUnit = (): Unit => {
  const kept = localStorage.getItem(KEY);
  return kept === 'cm' || kept === 'in' ? kept : 'mm';
};

/** A length on paper in the unit that this person thinks in; kept in millimetres. */
function LengthRow({
  setting,
  mm,
  onCommit,
}: {
  setting: Setting<unknown>;
  mm: number;
  onCommit: (mm: number) => void;
}) {
  const [unit, setUnit] = useState<Unit>(knownUnit);
  const { label, min = 0, max = 0 } = metaOf(setting);
  const per = UNITS[unit];
  return (
    <div className="panel-row">
      <b>{label}</b>
      <span className="length-field">
        <InputNumber
          size="small"
          aria-label={label}
          min={min / per}
          max={max / per}
          step={unit === 'mm' ? 1 : 0.1}
          value={Math.round((mm / per) * 1000) / 1000}
          changeOnWheel={false}
          onChange={(v) => v !== null && onCommit(Math.round(v * per * 1000) / 1000)}
          style={{ width: 84 }}
        />
        <Select
          size="small"
          aria-label="Unit"
          value={unit}
          options={Object.keys(UNITS).map((u) => ({ value: u, label: u }))}
          onChange={(next: Unit) => {
            localStorage.setItem(KEY, next);
            setUnit(next);
          }}
          style={{ width: 62 }}
        />
      </span>
    </div>
  );
}

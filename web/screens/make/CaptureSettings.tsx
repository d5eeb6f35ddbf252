import { InputNumber, Segmented, Switch } from 'antd';
import type { MakeMarkRequest } from '../../../contract/requests';

export type Choice = NonNullable<MakeMarkRequest['capture']>;

export const startChoice: Choice = {
  paper: 'cream',
  lines: 'none',
  light: 'lamp',
  tiltDeg: -8,
  noise: 4,
  blurPx: 0.8,
  quality: 80,
  hasPlace: true,
  widthPx: 2000,
};

const labels: Record<string, string> = { envelope: 'brown' };
const few = (values: readonly string[]) => values.map((value) => ({ value, label: labels[value] ?? value }));

/** What the simulated photograph looks like: paper, light, tilt, and what camera and file do to it. */
export function CaptureSettings({ value, onChange }: { value: Choice; onChange: (value: Choice) => void }) {
  const pick = (label: string, key: 'paper' | 'lines' | 'light', values: readonly string[]) => (
    <div className="panel-field">
      <b>{label}</b>
      <Segmented
        block
        size="small"
        aria-label={label}
        value={value[key]}
        options={few(values)}
        onChange={(v) => onChange({ ...value, [key]: v } as Choice)}
      />
    </div>
  );
  const number = (
    label: string,
    key: 'tiltDeg' | 'noise' | 'blurPx' | 'quality' | 'widthPx',
    min: number,
    max: number,
    step: number,
    unit?: string,
  ) => (
    <label className="panel-row">
      <b>{label}</b>
      <InputNumber
        size="small"
        aria-label={label}
        min={min}
        max={max}
        step={step}
        value={value[key]}
        onChange={(v) => v !== null && onChange({ ...value, [key]: key === 'widthPx' ? Math.round(v) : v })}
        suffix={unit}
        style={{ width: 104 }}
      />
    </label>
  );
  return (
    <section className="capture" aria-label="Simulate a photograph">
      <p className="soft small">A made-up photograph of it, to try things out.</p>
      {pick('Paper', 'paper', ['white', 'cream', 'grey', 'envelope'])}
      {pick('Printed lines', 'lines', ['none', 'ruled', 'squared'])}
      {pick('Light', 'light', ['even', 'lamp', 'shadow', 'flash'])}
      {number('Tilt', 'tiltDeg', -30, 30, 1, '°')}
      {number('Camera noise', 'noise', 0, 20, 1, 'levels')}
      {number('Blur', 'blurPx', 0, 4, 0.1, 'px')}
      {number('JPEG quality', 'quality', 30, 100, 5)}
      {number('Width', 'widthPx', 400, 4000, 100, 'px')}
      <label className="panel-row">
        <span>
          <b>Location tag</b>
          <small className="soft">never leaves Tassel again</small>
        </span>
        <Switch size="small" checked={value.hasPlace} onChange={(hasPlace) => onChange({ ...value, hasPlace })} />
      </label>
    </section>
  );
}

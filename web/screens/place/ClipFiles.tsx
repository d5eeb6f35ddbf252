import { Button, InputNumber, Select } from 'antd';
import { useState } from 'react';
import { paths } from '../../../contract/paths';
import type { ClipOptions, RunGroundView, RunOptions } from '../../../contract/views';
import { download } from '../../data/http';
import { useDoing } from './useDoing';

const FORMS = [
  { value: 'png', label: 'picture, PNG' },
  { value: 'prores4444', label: 'clip, ProRes 4444' },
  { value: 'webm', label: 'clip, WebM' },
  { value: 'key-green', label: 'clip on green' },
  { value: 'key-blue', label: 'clip on blue' },
];
const WHOLE: ClipOptions = { from: null, until: null, fade: 0, cutFrom: null, cutUntil: null };

interface Props {
  readonly ground: RunGroundView;
  readonly options: RunOptions;
  readonly onOptions: (options: RunOptions) => void;
}

/** When the mark is on the clip, which part is written, and the mark alone for a video program. */
export function ClipFiles({ ground, options, onOptions }: Props) {
  const when = options.clip ?? WHOLE;
  const [form, setForm] = useState('prores4444');
  const [seconds, setSeconds] = useState(5);
  const state = useDoing();
  const set = (change: Partial<ClipOptions>) => onOptions({ ...options, clip: { ...when, ...change } });
  const make = () => state.run(() => download(paths.runGroundOverlay(ground.id), { form, seconds, fade: when.fade }));
  const time = (label: string, key: keyof ClipOptions, empty: string) => (
    <InputNumber
      aria-label={label}
      min={0}
      max={ground.seconds ?? 3600}
      step={0.5}
      suffix="s"
      placeholder={empty}
      value={when[key]}
      onChange={(v) => set({ [key]: key === 'fade' ? (v ?? 0) : v })}
    />
  );
  return (
    <section className="clip-files small" aria-label="The clip">
      <div className="place-field">
        <span>Mark shows</span>
        <span className="clip-pair">
          {time('Mark from', 'from', 'start')}
          {time('Mark until', 'until', 'end')}
        </span>
      </div>
      <div className="place-field">
        <span>Part kept</span>
        <span className="clip-pair">
          {time('Part from', 'cutFrom', 'start')}
          {time('Part until', 'cutUntil', 'end')}
        </span>
      </div>
      <div className="place-field">
        <span>Fades</span>
        {time('Fades', 'fade', '0')}
      </div>
      <div className="place-field clip-overlay">
        <Select aria-label="Overlay" value={form} options={FORMS} onChange={setForm} />
        {form !== 'png' && (
          <InputNumber
            aria-label="Seconds of the overlay"
            min={0.5}
            max={600}
            suffix="s"
            style={{ width: 76 }}
            value={seconds}
            onChange={(v) => v && setSeconds(v)}
          />
        )}
        <Button size="small" loading={state.isBusy} onClick={() => void make()}>
          Overlay
        </Button>
      </div>
      {state.problem && (
        <p className="finding" role="alert">
          {state.problem}
        </p>
      )}
    </section>
  );
}

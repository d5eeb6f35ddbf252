import { Button, InputNumber, Segmented } from 'antd';
import type { FoundView } from '../../../../contract/views';
import type { StageValues } from '../../../../core/stages';
import type { CutOutFacts } from '../../../../core/stages/cutOut';
import { AreaList } from './AreaList';
import { ToleranceChart } from './ToleranceChart';

type Values = StageValues['cutOut'];

interface Props {
  readonly values: Values;
  readonly facts: CutOutFacts | null;
  readonly found: FoundView;
  readonly isPicking: boolean;
  readonly onPickGround: () => void;
  readonly onToggleArea: (x: number, y: number, decision: 'open' | 'solid') => void;
  readonly onPreview: (values: Values) => void;
  readonly onCommit: (values: Values, why: string) => void;
}

/** The settings of the cut-out; every one has a start that was measured. */
export function CutOutPanel({ values, facts, found, isPicking, onPickGround, onToggleArea, onPreview, onCommit }: Props) {
  const isFlat = values.way === 'flat';
  const flat = isFlat && facts?.way === 'flat' ? facts : null;
  const tolerance = values.tolerance ?? flat?.tolerance ?? 0;
  const isSteady = flat !== null && tolerance >= flat.steady.from && tolerance <= flat.steady.to;
  return (
    <>
      <header>
        <h2>Cut out</h2>
        <span className="soft">{!isFlat ? 'Its own transparency is kept' : values.ground.length ? 'From a flat ground, picked by you' : 'From a flat ground, measured at the border'}</span>
      </header>
      {(found.way === 'transparent' || !isFlat) && (
        <Segmented block size="small" value={values.way} onChange={(way) => onCommit({ ...values, way: way as Values['way'] }, 'Change the way')} options={[{ value: 'flat', label: 'Flat ground' }, { value: 'keep', label: 'Keep as it is' }]} />
      )}
      {isFlat && (
        <>
          <div className="panel-row">
            <b>Ground</b>
            <span className="panel-ground"><i style={{ background: flat?.groundHex ?? values.ground[0] ?? 'transparent' }} />{(flat?.groundHex ?? '…').toUpperCase()}{flat && `, noise ${flat.noise.toFixed(1)}`}</span>
          </div>
          <div className="panel-links">
            <button type="button" className="plain small" aria-pressed={isPicking} onClick={onPickGround}>{isPicking ? 'Leave it' : 'Pick it in the picture'}</button>
            {values.ground.length > 0 && <button type="button" className="plain small" onClick={() => onCommit({ ...values, ground: [], tolerance: null }, 'Measure the ground')}>Measure it again</button>}
          </div>
        </>
      )}
      {flat && (
        <>
          <div className="panel-row"><b>Tolerance</b><span>{tolerance} levels · {isSteady ? 'in the steady range' : 'outside the steady range'}</span></div>
          <ToleranceChart facts={flat} value={tolerance} onPreview={(t) => onPreview({ ...values, tolerance: t })} onCommit={(t) => onCommit({ ...values, tolerance: t }, 'Set the tolerance')} />
          {values.tolerance !== null && <button type="button" className="plain small" onClick={() => onCommit({ ...values, tolerance: null }, 'Set the tolerance back')}>Back to the middle of the steady range</button>}
          <AreaList areas={flat.areas} onToggle={onToggleArea} />
        </>
      )}
      {isFlat && (
        <>
          <label className="panel-row"><span><b>Edge</b><small className="soft">choke above 0, spread below</small></span>
            <InputNumber size="small" aria-label="Choke or spread" min={-5} max={5} step={0.1} precision={1} value={values.choke} onChange={(v) => v !== null && onCommit({ ...values, choke: v }, 'Move the edge')} suffix="px" style={{ width: 104 }} />
          </label>
          <label className="panel-row"><span><b>Softness</b><small className="soft">0 keeps the edge as measured</small></span>
            <InputNumber size="small" aria-label="Softness" min={0} max={8} step={0.1} precision={1} value={values.softness} onChange={(v) => v !== null && onCommit({ ...values, softness: v }, 'Soften the edge')} suffix="px" style={{ width: 104 }} />
          </label>
          {(values.areas.length > 0 || values.tolerance !== null || values.choke !== 0 || values.softness !== 0) && (
            <Button size="small" onClick={() => onCommit({ ...values, areas: [], tolerance: null, choke: 0, softness: 0, ground: [] }, 'Back to the proposal')}>Back to the proposal</Button>
          )}
        </>
      )}
    </>
  );
}

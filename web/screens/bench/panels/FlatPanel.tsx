import { Button, InputNumber } from 'antd';
import type { StageValues } from '../../../../core/stages';
import { MOST_GROUNDS, MOST_TOLERANCE } from '../../../../core/stages/limits';
import type { AreaFact, FlatWayFacts } from '../../../../core/stages/cutOutFacts';
import { AreaList } from './AreaList';
import { CostChart } from './CostChart';

type Values = StageValues['cutOut'];

interface Props {
  readonly values: Values;
  readonly facts: FlatWayFacts | null;
  readonly isPicking: boolean;
  readonly onPickGround: () => void;
  readonly onChoose: (areas: readonly AreaFact[], decision: 'open' | 'solid') => void;
  readonly onPreview: (values: Values) => void;
  readonly onCommit: (values: Values, why: string) => void;
}

const levels = (shares: readonly number[]) => shares.map((_, t) => t);

/** The settings of the flat ground way. */
export function FlatPanel({ values, facts, isPicking, onPickGround, onChoose, onPreview, onCommit }: Props) {
  const tolerance = values.tolerance ?? facts?.tolerance ?? 0;
  const isSteady = facts !== null && tolerance >= facts.steady.from && tolerance <= facts.steady.to;
  const own = { ground: [], tolerance: null, choke: 0, softness: 0, cleanUp: 1, areas: [] };
  const isChanged = Object.entries(own).some(
    ([key, value]) => JSON.stringify(values[key as keyof Values]) !== JSON.stringify(value),
  );
  return (
    <>
      {values.ground.length === 0 ? (
        <div className="panel-row">
          <b>Ground</b>
          <span className="swatch">
            <i style={{ background: facts?.groundHex ?? 'transparent' }} />
            {(facts?.groundHex ?? '…').toUpperCase()}
            {facts && `, noise ${facts.noise.toFixed(1)}`}
          </span>
        </div>
      ) : (
        <div className="panel-row">
          <b>{values.ground.length > 1 ? 'Grounds' : 'Ground'}</b>
          <span className="swatches">
            {values.ground.map((hex, k) => (
              <button
                key={hex}
                type="button"
                className="swatch pressable"
                title="Take it off the list"
                aria-label={`Ground ${hex}; take it off the list`}
                onClick={() =>
                  onCommit(
                    { ...values, ground: values.ground.filter((_, n) => n !== k), tolerance: null },
                    'Take a ground off',
                  )
                }
              >
                <i style={{ background: hex }} />
                {hex.toUpperCase()} ×
              </button>
            ))}
          </span>
        </div>
      )}
      <div className="panel-links">
        {values.ground.length < MOST_GROUNDS && (
          <button type="button" className="plain small" aria-pressed={isPicking} onClick={onPickGround}>
            {isPicking ? 'Leave it' : values.ground.length ? 'Pick one more' : 'Pick it in the picture'}
          </button>
        )}
        {values.ground.length > 0 && (
          <button
            type="button"
            className="plain small"
            onClick={() => onCommit({ ...values, ground: [], tolerance: null }, 'Measure the ground')}
          >
            Measure it again
          </button>
        )}
      </div>
      {facts && (
        <>
          <div className="panel-row">
            <b>Tolerance</b>
            <span>
              {tolerance} levels · {isSteady ? 'in the steady range' : 'outside the steady range'}
            </span>
          </div>
          <CostChart
            label="Tolerance"
            value={tolerance}
            most={MOST_TOLERANCE}
            steps={{ small: 1, large: 8 }}
            steady={facts.steady}
            words={(v) => `${v} levels`}
            costs={[
              { at: levels(facts.groundLeft), share: facts.groundLeft, words: 'ground left' },
              { at: levels(facts.artworkEaten), share: facts.artworkEaten, words: 'artwork eaten', isEaten: true },
            ]}
            onPreview={(t) => onPreview({ ...values, tolerance: t })}
            onCommit={(t) => onCommit({ ...values, tolerance: t }, 'Set the tolerance')}
          />
          {values.tolerance !== null && (
            <button
              type="button"
              className="plain small"
              onClick={() => onCommit({ ...values, tolerance: null }, 'Set the tolerance back')}
            >
              Back to the middle of the steady range
            </button>
          )}
          <AreaList areas={facts.areas} onChoose={onChoose} />
        </>
      )}
      <NumberRow
        label="Edge"
        hint="above 0 inwards, below 0 outwards"
        name="Choke or spread"
        value={values.choke}
        min={-5}
        max={5}
        unit="px"
        onChange={(choke) => onCommit({ ...values, choke }, 'Move the edge')}
      />
      <NumberRow
        label="Softness"
        hint="0 keeps the edge as measured"
        name="Softness"
        value={values.softness}
        min={0}
        max={8}
        unit="px"
        onChange={(softness) => onCommit({ ...values, softness }, 'Soften the edge')}
      />
      <NumberRow
        label="Clean-up"
        hint="of dirt that compression left; 1 as measured"
        name="Clean-up"
        value={values.cleanUp}
        min={0}
        max={2}
        onChange={(cleanUp) => onCommit({ ...values, cleanUp }, 'Set the clean-up')}
      />
      {isChanged && (
        <Button size="small" onClick={() => onCommit({ ...values, ...own }, 'Back to the proposal')}>
          Back to the proposal
        </Button>
      )}
    </>
  );
}

interface RowProps {
  readonly label: string;
  readonly hint: string;
  readonly name: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly unit?: string;
  readonly onChange: (value: number) => void;
}

export function NumberRow({ label, hint, name, value, min, max, unit, onChange }: RowProps) {
  return (
    <label className="panel-row">
      <span>
        <b>{label}</b>
        <small className="soft">{hint}</small>
      </span>
      <InputNumber
        size="small"
        aria-label={name}
        min={min}
        max={max}
        step={0.1}
        precision={1}
        value={value}
        onChange={(v) => v !== null && onChange(v)}
        suffix={unit}
        style={{ width: 104, flex: 'none' }}
      />
    </label>
  );
}

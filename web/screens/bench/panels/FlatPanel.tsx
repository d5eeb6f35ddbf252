import { MOST_GROUNDS, MOST_TOLERANCE } from '../../../../core/limits';
import { type Setting, initialValues } from '../../../../core/params';
import type { StageValues } from '../../../../core/stages';
import { cutOutParams } from '../../../../core/stages/cutOutParams';
import type { AreaFact, FlatWayFacts } from '../../../../core/stages/cutOutFacts';
import { Lazy } from '../../../components/Lazy';
import { SettingRow } from '../../../components/SettingRow';
import { AreaList } from './AreaList';
import { LazyCostChart } from './LazyCostChart';
import { Measuring } from './Measuring';

type Values = StageValues['cutOut'];

interface Props {
  /** The facts are those of the picture at full size. */
  readonly isWhole: boolean;
  readonly values: Values;
  readonly facts: FlatWayFacts | null;
  readonly picture: ImageBitmap | null;
  readonly size: { readonly width: number; readonly height: number };
  readonly isPicking: boolean;
  readonly onPickGround: () => void;
  readonly onChoose: (areas: readonly AreaFact[], decision: 'open' | 'solid') => void;
  readonly onPreview: (values: Values) => void;
  readonly onCommit: (values: Values, why: string) => void;
}

const levels = (shares: readonly number[]) => shares.map((_, t) => t);

/** Settings of this way beside those on the picture: by name, in the order of the panel. */
const OWN = ['choke', 'softness', 'cleanUp'] as const;
const RESET = [...OWN, 'ground', 'tolerance', 'areas'] as const;

/** The settings of the flat ground way. */
export function FlatPanel(props: Props) {
  const { values, facts, onCommit } = props;
  const own = initialValues(cutOutParams);
  const isChanged = RESET.some((key) => JSON.stringify(values[key]) !== JSON.stringify(own[key]));
  return (
    <>
      <Grounds {...props} />
      {facts ? (
        <Tolerance {...props} facts={facts} />
      ) : (
        <Measuring what="Tolerance and enclosed areas are being measured" />
      )}
      {facts && <AreaList areas={facts.areas} picture={props.picture} size={props.size} onChoose={props.onChoose} />}
      {OWN.map((name) => (
        <SettingRow
          key={name}
          setting={cutOutParams[name] as unknown as Setting<never>}
          value={values[name]}
          onCommit={(value) => onCommit({ ...values, [name]: value }, WHY[name])}
        />
      ))}
      {isChanged && (
        <button
          type="button"
          className="plain small"
          onClick={() =>
            onCommit({ ...values, ...Object.fromEntries(RESET.map((key) => [key, own[key]])) }, 'All back to automatic')
          }
        >
          All back to automatic
        </button>
      )}
    </>
  );
}

const WHY = { choke: 'Move the edge', softness: 'Soften the edge', cleanUp: 'Set the clean-up' };

function Grounds({ values, facts, isPicking, onPickGround, onCommit }: Props) {
  const { ground } = values;
  const takeOff = (k: number) =>
    onCommit({ ...values, ground: ground.filter((_, n) => n !== k), tolerance: null }, 'Take a ground off');
  return (
    <>
      <div className="panel-row">
        <b>{ground.length > 1 ? 'Grounds' : 'Ground'}</b>
        {ground.length === 0 && !facts && <Measuring />}
        {ground.length === 0 && facts && (
          <span className="swatch">
            <i style={{ background: facts.groundHex }} />
            <span>
              <span className="hex">{facts.groundHex.toUpperCase()}</span>, noise {facts.noise.toFixed(1)}
            </span>
          </span>
        )}
        {ground.length > 0 && (
          <span className="swatches">
            {ground.map((hex, k) => (
              <button
                key={hex}
                type="button"
                className="swatch pressable"
                title="Take it off the list"
                aria-label={`${hex.toUpperCase()} ×, take this ground off the list`}
                onClick={() => takeOff(k)}
              >
                <i style={{ background: hex }} />
                <span className="hex">{hex.toUpperCase()}</span> ×
              </button>
            ))}
          </span>
        )}
      </div>
      <div className="panel-links">
        {ground.length < MOST_GROUNDS && (
          <button type="button" className="plain small" aria-pressed={isPicking} onClick={onPickGround}>
            {isPicking ? 'Cancel' : ground.length ? 'Pick one more' : 'Pick it in the picture'}
          </button>
        )}
        {ground.length > 0 && (
          <button
            type="button"
            className="plain small"
            onClick={() => onCommit({ ...values, ground: [], tolerance: null }, 'Back to automatic')}
          >
            Back to automatic
          </button>
        )}
      </div>
    </>
  );
}

function Tolerance({ values, facts, isWhole, onPreview, onCommit }: Props & { facts: FlatWayFacts }) {
  const tolerance = values.tolerance ?? facts.tolerance;
  const isSteady = tolerance >= facts.steady.from && tolerance <= facts.steady.to;
  return (
    <>
      <div className="panel-row">
        <b>Tolerance</b>
        <span>
          {/* Measured on a smaller picture it is near, until the whole one is measured. */}
          {values.tolerance === null && !isWhole && 'about '}
          {tolerance} levels · {isSteady ? 'in the steady range' : 'outside the steady range'}
        </span>
      </div>
      <Lazy height={76}>
        <LazyCostChart
          label="Tolerance"
          value={tolerance}
          most={MOST_TOLERANCE}
          steps={{ small: 1, large: 8 }}
          steady={facts.steady}
          words={(v) => `${v} levels`}
          costs={[
            { at: levels(facts.groundLeft), share: facts.groundLeft, words: 'ground left' },
            { at: levels(facts.artworkEaten), share: facts.artworkEaten, words: 'artwork lost', isLoss: true },
          ]}
          onPreview={(t) => onPreview({ ...values, tolerance: t })}
          onCommit={(t) => onCommit({ ...values, tolerance: t }, 'Set the tolerance')}
        />
      </Lazy>
      {values.tolerance !== null && (
        <button
          type="button"
          className="plain small"
          onClick={() => onCommit({ ...values, tolerance: null }, 'Tolerance back to automatic')}
        >
          Back to automatic
        </button>
      )}
    </>
  );
}

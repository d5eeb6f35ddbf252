import { Switch } from 'antd';
import { LEAST_LEVEL, MOST_LEVEL } from '../../../../core/limits';
import { type Setting, initialValues, metaOf } from '../../../../core/params';
import type { StageValues } from '../../../../core/stages';
import { cutOutParams } from '../../../../core/stages/cutOutParams';
import type { PaperWayFacts } from '../../../../core/stages/cutOutFacts';
import { Lazy } from '../../../components/Lazy';
import { SettingRow } from '../../../components/SettingRow';
import { LazyCostChart } from './LazyCostChart';
import { Measuring } from './Measuring';

type Values = StageValues['cutOut'];

interface Props {
  readonly values: Values;
  readonly facts: PaperWayFacts | null;
  readonly palette: readonly { name: string; hex: string }[];
  readonly onAddColour: (hex: string) => void;
  readonly onPreview: (values: Values) => void;
  readonly onCommit: (values: Values, why: string) => void;
}

// Low levels are where it matters: the axis runs by their square root.
const scale = { to: (v: number) => Math.sqrt(v / MOST_LEVEL), from: (s: number) => s * s * MOST_LEVEL };
/** The chart’s height stands for at least so many stray pieces: one or two are no peak. */
const FEW_PIECES = 40;
const percent = (v: number) => `${Math.round(v * 1000) / 10} %`;
const OWN = ['level', 'weight', 'ink', 'keepLines'] as const;
const setting = (name: (typeof OWN)[number]) => cutOutParams[name] as unknown as Setting<never>;

/** The settings of the ink on paper way. */
export function InkPanel(props: Props) {
  const { values, facts, onCommit } = props;
  const own = initialValues(cutOutParams);
  const isChanged = OWN.some((key) => JSON.stringify(values[key]) !== JSON.stringify(own[key]));
  return (
    <>
      {facts ? <Level {...props} facts={facts} /> : <Measuring what="The cut level is being measured" />}
      <SettingRow
        setting={setting('weight')}
        value={values.weight}
        onCommit={(weight) => onCommit({ ...values, weight: weight as number }, 'Change the weight')}
      />
      <InkColour {...props} />
      <label className="panel-row">
        <span>
          <b>Printed lines</b>
          <small className="soft">
            {values.keepLines ? 'kept as part of the mark' : !facts ? 'being measured…' : linesWords(facts)}
          </small>
        </span>
        <Switch
          size="small"
          aria-label={metaOf(cutOutParams.keepLines).label}
          checked={values.keepLines}
          onChange={(keepLines) =>
            onCommit({ ...values, keepLines }, keepLines ? 'Keep printed lines' : 'Take printed lines out')
          }
          checkedChildren="keep"
          unCheckedChildren="take out"
        />
      </label>
      {isChanged && (
        <button
          type="button"
          className="plain small"
          onClick={() =>
            onCommit({ ...values, ...Object.fromEntries(OWN.map((key) => [key, own[key]])) }, 'All back to automatic')
          }
        >
          All back to automatic
        </button>
      )}
    </>
  );
}

const linesWords = ({ lineCount }: PaperWayFacts) => (lineCount ? `${lineCount} taken out` : 'none found');

function Level({ values, facts, onPreview, onCommit }: Props & { facts: PaperWayFacts }) {
  const level = values.level ?? facts.level;
  const isSteady = level >= facts.steady.from && level <= facts.steady.to;
  const most = Math.max(FEW_PIECES, ...facts.strayPieces);
  return (
    <>
      <div className="panel-row">
        <b>Cut level</b>
        <span>
          {percent(level)} · {isSteady ? 'in the steady range' : 'outside the steady range'}
        </span>
      </div>
      <Lazy height={76}>
        <LazyCostChart
          label="Cut level"
          value={level}
          most={MOST_LEVEL}
          steps={{ small: 0.005, large: 0.05 }}
          steady={facts.steady}
          words={percent}
          scale={scale}
          costs={[
            { at: facts.levels, share: facts.strayPieces.map((n) => n / most), words: 'stray pieces' },
            { at: facts.levels, share: facts.inkLost, words: 'strokes lost', isLoss: true },
          ]}
          onPreview={(v) => onPreview({ ...values, level: clampLevel(v) })}
          onCommit={(v) => onCommit({ ...values, level: clampLevel(v) }, 'Set the cut level')}
        />
      </Lazy>
      {values.level !== null && (
        <button
          type="button"
          className="plain small"
          onClick={() => onCommit({ ...values, level: null }, 'Cut level back to automatic')}
        >
          Back to automatic
        </button>
      )}
    </>
  );
}

function InkColour({ values, facts, palette, onAddColour, onPreview, onCommit }: Props) {
  const ink = values.ink[0] ?? facts?.inkHex ?? null;
  const isInPalette = ink === null || palette.some((c) => c.hex.toLowerCase() === ink.toLowerCase());
  if (ink === null)
    return (
      <div className="panel-row">
        <b>Ink colour</b>
        <Measuring />
      </div>
    );
  return (
    <>
      <SettingRow
        setting={setting('ink')}
        hint={values.ink.length ? 'set by you' : 'measured where the pen inks fully'}
        value={[ink]}
        palette={palette}
        onPreview={(v) => onPreview({ ...values, ink: v as string[] })}
        onCommit={(v) => onCommit({ ...values, ink: v as string[] }, 'Set the ink’s colour')}
      />
      <div className="panel-links">
        {values.ink.length > 0 && (
          <button
            type="button"
            className="plain small"
            onClick={() => onCommit({ ...values, ink: [] }, 'Ink colour back to automatic')}
          >
            Back to automatic
          </button>
        )}
        {!isInPalette && (
          <button type="button" className="plain small" onClick={() => onAddColour(ink)}>
            Add it to the palette
          </button>
        )}
      </div>
    </>
  );
}

const clampLevel = (v: number) => Math.min(MOST_LEVEL, Math.max(LEAST_LEVEL, Math.round(v * 1000) / 1000));

import { Button, ColorPicker, Segmented, Switch } from 'antd';
import type { StageValues } from '../../../../core/stages';
import { MOST_LEVEL } from '../../../../core/stages/limits';
import type { PaperWayFacts } from '../../../../core/stages/cutOutFacts';
import { CostChart } from './CostChart';
import { NumberRow } from './FlatPanel';

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

/** The settings of the ink on paper way. */
export function InkPanel({ values, facts, palette, onAddColour, onPreview, onCommit }: Props) {
  const level = values.level ?? facts?.level ?? 0;
  const isSteady = facts !== null && level >= facts.steady.from && level <= facts.steady.to;
  const ink = values.ink[0] ?? facts?.inkHex ?? '#000000';
  const most = Math.max(FEW_PIECES, ...(facts?.strayPieces ?? []));
  const isInPalette = palette.some((c) => c.hex.toLowerCase() === ink.toLowerCase());
  return (
    <>
      {facts && (
        <>
          <div className="panel-row">
            <b>Cut level</b>
            <span>
              {percent(level)} · {isSteady ? 'in the steady range' : 'outside the steady range'}
            </span>
          </div>
          <CostChart
            label="Cut level"
            value={level}
            most={MOST_LEVEL}
            steps={{ small: 0.005, large: 0.05 }}
            steady={facts.steady}
            words={percent}
            scale={scale}
            costs={[
              { at: facts.levels, share: facts.strayPieces.map((n) => n / most), words: 'stray pieces' },
              { at: facts.levels, share: facts.inkLost, words: 'strokes lost', isEaten: true },
            ]}
            onPreview={(v) => onPreview({ ...values, level: clampLevel(v) })}
            onCommit={(v) => onCommit({ ...values, level: clampLevel(v) }, 'Set the cut level')}
          />
          {values.level !== null && (
            <button
              type="button"
              className="plain small"
              onClick={() => onCommit({ ...values, level: null }, 'Set the cut level back')}
            >
              Back to the middle of the steady range
            </button>
          )}
        </>
      )}
      <div className="panel-row">
        <span>
          <b>Pen</b>
          <small className="soft">
            {values.pen === 'pressure' ? 'light strokes stay light' : 'one density throughout'}
          </small>
        </span>
        <Segmented
          size="small"
          aria-label="Pen"
          value={values.pen}
          onChange={(pen) => onCommit({ ...values, pen: pen as Values['pen'] }, 'Change the pen')}
          options={[
            { value: 'pressure', label: 'pressure' },
            { value: 'solid', label: 'solid' },
          ]}
        />
      </div>
      <NumberRow
        label="Weight"
        hint="above 0 heavier, below 0 thinner"
        name="Weight"
        value={values.weight}
        min={-6}
        max={6}
        unit="px"
        onChange={(weight) => onCommit({ ...values, weight }, 'Change the weight')}
      />
      <div className="panel-row">
        <span>
          <b>Ink</b>
          <small className="soft">{values.ink.length ? 'set by you' : 'measured where the pen inks fully'}</small>
        </span>
        <ColorPicker
          size="small"
          value={ink}
          disabledAlpha
          showText={(c) => c.toHexString().toUpperCase()}
          onChangeComplete={(c) => onCommit({ ...values, ink: [c.toHexString().slice(0, 7)] }, 'Set the ink’s colour')}
          presets={[{ label: 'Palette', colors: palette.map((c) => c.hex) }]}
        />
      </div>
      <div className="panel-links">
        {values.ink.length > 0 && (
          <button
            type="button"
            className="plain small"
            onClick={() => onCommit({ ...values, ink: [] }, 'Measure the ink’s colour')}
          >
            Measure it again
          </button>
        )}
        {!isInPalette && (
          <button type="button" className="plain small" onClick={() => onAddColour(ink)}>
            Add it to the palette
          </button>
        )}
      </div>
      <label className="panel-row">
        <span>
          <b>Printed lines</b>
          <small className="soft">
            {values.keepLines
              ? 'kept as part of the mark'
              : facts?.lineCount
                ? `${facts.lineCount} taken out`
                : 'none found'}
          </small>
        </span>
        <Switch
          size="small"
          aria-label="Keep printed lines"
          checked={values.keepLines}
          onChange={(keepLines) =>
            onCommit({ ...values, keepLines }, keepLines ? 'Keep printed lines' : 'Take printed lines out')
          }
          checkedChildren="keep"
          unCheckedChildren="take out"
        />
      </label>
      {(values.level !== null ||
        values.weight !== 0 ||
        values.pen !== 'pressure' ||
        values.ink.length > 0 ||
        values.keepLines) && (
        <Button
          size="small"
          onClick={() =>
            onCommit(
              { ...values, level: null, weight: 0, pen: 'pressure', ink: [], keepLines: false },
              'Back to the proposal',
            )
          }
        >
          Back to the proposal
        </Button>
      )}
    </>
  );
}

const clampLevel = (v: number) => Math.min(MOST_LEVEL, Math.max(0.02, Math.round(v * 1000) / 1000));

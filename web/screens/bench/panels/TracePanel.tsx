import { InputNumber, Segmented } from 'antd';
import { rgbFromHex } from '../../../../core/colour/hex';
import { deltaE, oklabFromSrgb } from '../../../../core/colour/oklab';
import type { Setting } from '../../../../core/params';
import { type StageValues, stages } from '../../../../core/stages';
import type { ColourChange } from '../../../../core/stages/trace';
import type { TraceFacts, TracedColour } from '../../../../core/stages/traceFacts';
import { MOST_COLOURS } from '../../../../core/trace/findPalette';
import { ColourChoice } from '../../../components/ColourChoice';
import { Lazy } from '../../../components/Lazy';
import { SettingRow } from '../../../components/SettingRow';
import { LazyColourCountChart, LazyToleranceChart } from './LazyTraceCharts';
import { Measuring } from './Measuring';
import { TracePieces } from './TracePieces';

type Values = StageValues['trace'];

interface Props {
  readonly values: Values;
  readonly facts: TraceFacts | null;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  readonly showsNodes: boolean;
  /** Numbers of the pieces that are picked; null while none can be. */
  readonly picked: ReadonlySet<number> | null;
  /** How much of a long trace is done; null where nothing long is under way. */
  readonly share: number | null;
  readonly onNodes: (isShown: boolean) => void;
  readonly onPick: (picked: ReadonlySet<number> | null) => void;
  readonly onPieces: Parameters<typeof TracePieces>[0]['onPieces'];
  readonly onCommit: (values: Values, why: string) => void;
}

const fields = stages.get('trace').params as unknown as Record<string, Setting<never>>;
const px = (v: number) => `${v < 10 ? Math.round(v * 100) / 100 : Math.round(v * 10) / 10} px`;
const percent = (v: number) => `${v >= 0.1 ? Math.round(v * 100) : Math.round(v * 1000) / 10} %`;

/** Whether the master is outlines, in which colours, and how near they are. */
export function TracePanel(props: Props) {
  const { values, facts, palette, showsNodes, picked, share, onNodes, onPick, onPieces, onCommit } = props;
  const isTraced = values.use !== 'off';
  if (facts?.state === 'paths')
    return (
      <>
        <header>
          <h2>Trace</h2>
          <span className="soft">paths already</span>
        </header>
        <p className="small">This mark came as paths and stays so: there is nothing to trace.</p>
      </>
    );
  return (
    <>
      <header>
        <h2>Trace</h2>
        <span className="soft">{facts?.state === 'traced' ? `${facts.nodes} nodes` : 'pixels'}</span>
      </header>
      <div className="panel-field">
        <b>Outlines for</b>
        <Segmented
          block
          size="small"
          aria-label="Outlines for"
          value={values.use}
          options={[
            { value: 'off', label: 'No files' },
            { value: 'vector', label: 'SVG and PDF' },
            { value: 'all', label: 'All files' },
          ]}
          onChange={(use) => onCommit({ ...values, use: use as Values['use'] }, reasons[use as Values['use']])}
        />
      </div>
      {!isTraced && (
        <p className="soft small">
          Outlines are sharp at any size and go into SVG and PDF files. Colours become flat; soft edges become sharp.
        </p>
      )}
      {share !== null && isTraced && (
        <div className="panel-row" role="status">
          <span className="soft small">Tracing at full size, {Math.round(share * 100)} %</span>
          <button
            type="button"
            className="plain small"
            onClick={() => onCommit({ ...values, use: 'off' }, 'Cancel the trace')}
          >
            Cancel
          </button>
        </div>
      )}
      {isTraced && facts?.state !== 'traced' && <Measuring what="The master is being traced" />}
      {isTraced && facts?.state === 'traced' && (
        <>
          <Colours {...props} facts={facts} />
          {(['tolerance', 'corner', 'smallest'] as const).map((key) => (
            <SettingRow
              key={key}
              setting={fields[key]}
              value={values[key]}
              onCommit={(v) => onCommit({ ...values, [key]: v }, `Set ${labelOf(key)}`)}
            />
          ))}
          {facts.byTolerance.length > 1 && (
            <Lazy height={112}>
              <LazyToleranceChart
                points={facts.byTolerance}
                value={values.tolerance}
                onChoose={(tolerance) =>
                  onCommit({ ...values, tolerance: Math.max(LEAST_TOLERANCE, tolerance) }, 'Set the tolerance')
                }
              />
            </Lazy>
          )}
          <Numbers facts={facts} />
          <TracePieces
            pieces={facts.pieces}
            count={facts.pieceCount}
            palette={palette}
            picked={picked}
            onPick={onPick}
            onPieces={onPieces}
          />
          <div className="tidy-tools">
            <button type="button" className="pill" aria-pressed={showsNodes} onClick={() => onNodes(!showsNodes)}>
              Outlines and nodes
            </button>
          </div>
        </>
      )}
    </>
  );
}

const LEAST_TOLERANCE = 0.05;
const reasons: Record<Values['use'], string> = {
  off: 'Back to pixels',
  vector: 'Outlines for vector files',
  all: 'Trace the master',
};
const labelOf = (key: 'tolerance' | 'corner' | 'smallest') =>
  ({ tolerance: 'the tolerance', corner: 'what is a corner', smallest: 'the smallest piece' })[key];

function Colours({ values, facts, palette, onCommit }: Props & { facts: TraceFacts }) {
  const whole = facts.colours.reduce((sum, c) => sum + c.areaPx, 0);
  const change = (colour: TracedColour, to: string | null) => {
    const rest = values.changes.filter((c: ColourChange) => c.from !== colour.found);
    const changes = to === colour.found ? rest : [...rest, { from: colour.found, to }];
    onCommit({ ...values, changes }, to === null ? `Leave out ${colour.hex}` : `Draw ${colour.found} in ${to}`);
  };
  const snapped = snapToPalette(facts.colours, palette);
  return (
    <section className="panel-field" aria-label="Colours of the outlines">
      <div className="panel-row">
        <b>Colours</b>
        <InputNumber
          size="small"
          aria-label="Colours"
          min={1}
          max={MOST_COLOURS}
          placeholder={`automatic: ${facts.colours.length}`}
          value={values.colours}
          style={{ width: 116 }}
          onChange={(v) => v !== values.colours && onCommit({ ...values, colours: v }, 'Set the number of colours')}
        />
      </div>
      <ul className="traced-colours">
        {facts.colours.map((colour) => (
          <li key={colour.found} className={colour.isDropped ? 'is-dropped' : ''}>
            <ColourChoice
              name="Colour"
              hex={colour.hex}
              palette={palette}
              more={{
                label: 'Join with another',
                colours: facts.colours.filter((c) => c.found !== colour.found).map((c) => c.hex),
              }}
              onChange={(hex) => change(colour, hex)}
            />
            <span className="soft small">{percent(whole > 0 ? colour.areaPx / whole : 0)}</span>
            <button
              type="button"
              className="plain small"
              onClick={() => change(colour, colour.isDropped ? colour.found : null)}
            >
              {colour.isDropped ? 'Keep' : 'Leave out'}
            </button>
          </li>
        ))}
      </ul>
      {snapped.length > 0 && (
        <button
          type="button"
          className="plain small"
          onClick={() => {
            const rest = values.changes.filter((c) => !snapped.some((s) => s.from === c.from));
            onCommit({ ...values, changes: [...rest, ...snapped] }, 'Snap the colours to the palette');
          }}
        >
          Snap {snapped.length === 1 ? 'a colour' : `${snapped.length} colours`} to the palette
        </button>
      )}
      {facts.counts.length > 2 && (
        <Lazy height={84}>
          <LazyColourCountChart
            counts={facts.counts}
            steady={facts.steady}
            onChoose={(count) =>
              onCommit({ ...values, colours: Math.min(MOST_COLOURS, count) }, 'Set the number of colours')
            }
          />
        </Lazy>
      )}
    </section>
  );
}

/** A palette colour nearer than this is what was meant, OKLab × 100. */
const SNAP = 9;

/** Colours that are near one of the palette's but not it. */
export function snapToPalette(
  colours: readonly TracedColour[],
  palette: Props['palette'],
): { from: string; to: string }[] {
  const lab = (hex: string) => oklabFromSrgb(...rgbFromHex(hex));
  return colours.flatMap(({ found, hex, isDropped }) => {
    if (isDropped) return [];
    const own = lab(hex);
    const [near] = palette
      .map((c) => ({ hex: c.hex.toLowerCase(), off: deltaE(lab(c.hex), own) }))
      .sort((a, b) => a.off - b.off);
    return near && near.off < SNAP && near.hex !== hex ? [{ from: found, to: near.hex }] : [];
  });
}

function Numbers({ facts }: { facts: TraceFacts }) {
  const rows: [string, string][] = [
    ['Off the master', `${px(facts.meanDeviationPx)} in the mean, ${px(facts.largestDeviationPx)} at most`],
  ];
  if (facts.thinnestPx !== null && facts.medianStrokePx !== null)
    rows.push(['Strokes', `${px(facts.medianStrokePx)}, ${px(facts.thinnestPx)} at the thinnest`]);
  return (
    <dl className="facts">
      {rows.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

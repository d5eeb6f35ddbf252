import { ColorPicker, InputNumber, Segmented } from 'antd';
import type { Setting } from '../../../../core/params';
import { type StageValues, stages } from '../../../../core/stages';
import type { ColourChange } from '../../../../core/stages/trace';
import type { TraceFacts, TracedColour } from '../../../../core/stages/traceFacts';
import { MOST_COLOURS } from '../../../../core/trace/findPalette';
import { SettingRow } from '../../../components/SettingRow';
import { Measuring } from './Measuring';

type Values = StageValues['trace'];

interface Props {
  readonly values: Values;
  readonly facts: TraceFacts | null;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  readonly showsNodes: boolean;
  readonly onNodes: (isShown: boolean) => void;
  readonly onCommit: (values: Values, why: string) => void;
}

const fields = stages.get('trace').params as unknown as Record<string, Setting<never>>;
const px = (v: number) => `${v < 10 ? Math.round(v * 100) / 100 : Math.round(v * 10) / 10} px`;
const percent = (v: number) => `${v >= 0.1 ? Math.round(v * 100) : Math.round(v * 1000) / 10} %`;

/** Whether the master is outlines, in which colours, and how near they are. */
export function TracePanel(props: Props) {
  const { values, facts, showsNodes, onNodes, onCommit } = props;
  const isTraced = values.use === 'all';
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
      <div className="panel-row">
        <b>The master as</b>
        <Segmented
          size="small"
          aria-label="The master as"
          value={values.use}
          options={[
            { value: 'off', label: 'Pixels' },
            { value: 'all', label: 'Outlines' },
          ]}
          onChange={(use) =>
            onCommit({ ...values, use: use as Values['use'] }, use === 'all' ? 'Trace the master' : 'Back to pixels')
          }
        />
      </div>
      {!isTraced && (
        <p className="soft small">
          Outlines are sharp at any size and go into SVG and PDF files. Colours become flat; soft edges become sharp.
        </p>
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
          <Numbers facts={facts} />
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

const labelOf = (key: 'tolerance' | 'corner' | 'smallest') =>
  ({ tolerance: 'the tolerance', corner: 'what is a corner', smallest: 'the smallest piece' })[key];

function Colours({ values, facts, palette, onCommit }: Props & { facts: TraceFacts }) {
  const whole = facts.colours.reduce((sum, c) => sum + c.areaPx, 0);
  const change = (colour: TracedColour, to: string | null) => {
    const rest = values.changes.filter((c: ColourChange) => c.from !== colour.found);
    const changes = to === colour.found ? rest : [...rest, { from: colour.found, to }];
    onCommit({ ...values, changes }, to === null ? `Leave out ${colour.hex}` : `Draw ${colour.found} in ${to}`);
  };
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
            <ColorPicker
              size="small"
              value={colour.hex}
              disabledAlpha
              presets={[{ label: 'Palette', colors: ['#000000', '#ffffff', ...palette.map((c) => c.hex)] }]}
              onChangeComplete={(c) => change(colour, c.toHexString().slice(0, 7))}
            >
              <button type="button" className="swatch pressable" aria-label={`Colour ${colour.hex.toUpperCase()}`}>
                <i style={{ background: colour.hex }} />
                <span className="hex">{colour.hex.toUpperCase()}</span>
              </button>
            </ColorPicker>
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
    </section>
  );
}

function Numbers({ facts }: { facts: TraceFacts }) {
  const rows: [string, string][] = [
    ['Off the master', `${px(facts.meanDeviationPx)} in the mean, ${px(facts.largestDeviationPx)} at most`],
    ['Pieces', `${facts.pieces}`],
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

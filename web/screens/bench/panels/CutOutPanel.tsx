import { Segmented, Switch } from 'antd';
import type { FoundView } from '../../../../contract/views';
import type { StageValues } from '../../../../core/stages';
import type { AreaFact, CutOutFacts } from '../../../../core/stages/cutOutFacts';
import { FlatPanel } from './FlatPanel';
import { InkPanel } from './InkPanel';

type Values = StageValues['cutOut'];

interface Props {
  readonly values: Values;
  readonly facts: CutOutFacts | null;
  /** The facts are those of the picture at full size. */
  readonly isWhole?: boolean;
  readonly found: FoundView;
  readonly palette: readonly { name: string; hex: string }[];
  /** The whole original, and its full size. */
  readonly picture: ImageBitmap | null;
  readonly size: { readonly width: number; readonly height: number };
  readonly isPicking: boolean;
  readonly onPickGround: () => void;
  readonly onAddColour: (hex: string) => void;
  readonly onChoose: (areas: readonly AreaFact[], decision: 'open' | 'solid') => void;
  readonly onPreview: (values: Values) => void;
  readonly onCommit: (values: Values, why: string) => void;
}

const summary = (values: Values) => {
  if (values.way === 'keep') return 'Its own transparency is kept';
  if (values.way === 'paper') return values.mark ? 'One signature, as ink on paper' : 'All ink on the paper';
  return values.ground.length ? 'From a flat ground, picked by you' : 'From a flat ground, measured at the border';
};

/** The settings of the cut-out; every one has a start that was measured. */
export function CutOutPanel({
  values,
  facts,
  isWhole = true,
  found,
  palette,
  picture,
  size,
  isPicking,
  onPickGround,
  onAddColour,
  onChoose,
  onPreview,
  onCommit,
}: Props) {
  const ways = [
    { value: 'flat', label: 'Flat ground' },
    { value: 'paper', label: 'Ink on paper' },
  ];
  if (found.way === 'transparent' || values.way === 'keep') ways.push({ value: 'keep', label: 'As is' });
  return (
    <>
      <header>
        <h2>Cut out</h2>
        <span className="soft">{summary(values)}</span>
      </header>
      <Segmented
        block={ways.length < 3}
        size="small"
        aria-label="Way"
        value={values.way}
        onChange={(way) => onCommit({ ...values, way: way as Values['way'] }, 'Change the way')}
        options={ways}
      />
      {values.way === 'flat' && (
        <FlatPanel
          values={values}
          isWhole={isWhole}
          facts={facts?.way === 'flat' ? facts : null}
          picture={picture}
          size={size}
          isPicking={isPicking}
          onPickGround={onPickGround}
          onChoose={onChoose}
          onPreview={onPreview}
          onCommit={onCommit}
        />
      )}
      {values.way === 'keep' && (
        <label className="panel-row">
          <span>
            <b>White in its edges</b>
            <small className="soft">{values.oldGround.length > 0 ? 'taken out of them' : 'left as it came'}</small>
          </span>
          <Switch
            size="small"
            aria-label="Take the white out of its edges"
            checked={values.oldGround.length > 0}
            onChange={(isTaken) =>
              onCommit(
                { ...values, oldGround: isTaken ? ['#ffffff'] : [] },
                isTaken ? 'Take the white out of the edges' : 'Keep the edges as they came',
              )
            }
          />
        </label>
      )}
      {values.way === 'paper' && (
        <InkPanel
          values={values}
          facts={facts?.way === 'paper' ? facts : null}
          palette={palette}
          onAddColour={onAddColour}
          onPreview={onPreview}
          onCommit={onCommit}
        />
      )}
    </>
  );
}

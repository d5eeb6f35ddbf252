import { Button, InputNumber, Slider } from 'antd';
import type { MarkView } from '../../../../contract/views';
import type { RectPx } from '../../../../core/params';
import type { StageValues } from '../../../../core/stages';
import { MOST_TURN_DEG } from '../../../../core/stages/crop';
import type { MarkFact } from '../../../../core/stages/cutOutFacts';
import type { Candidates } from '../../../../worker/protocol';
import { FoundMarks, leaning } from './FoundMarks';

/** What the pointer does on this stage. */
export type CropMode = 'region' | 'line' | 'corners';

type Values = StageValues['crop'];

interface Props {
  readonly mark: MarkView;
  readonly values: Values;
  /** The point of the one signature that was taken. */
  readonly chosen: { readonly x: number; readonly y: number } | null;
  readonly candidates: Candidates | null;
  readonly mode: CropMode;
  /** What is visible, in pixels of the frame. */
  readonly frameExtents: RectPx | null;
  readonly isBusy: boolean;
  /** What the sheet holds: Signature or Mark. */
  readonly noun: string;
  /** The gap between pictures of a drawn sheet that was set by hand, share of its longer side. */
  readonly gap: number | null;
  readonly onGap: (gap: number | null) => void;
  readonly onMode: (mode: CropMode) => void;
  readonly onChange: (values: Values, why: string) => void;
  readonly onTake: (mark: MarkFact) => void;
  readonly onWhole: () => void;
  readonly onMakeMarks: (marks: readonly MarkFact[]) => void;
}

const LEAST_PX = 4;

/** The crop: region, turn, corners of the sheet, and the signatures that were found on it. */
export function CropPanel({
  mark,
  values,
  chosen,
  candidates,
  mode,
  frameExtents,
  isBusy,
  noun,
  gap,
  onGap,
  onMode,
  onChange,
  onTake,
  onWhole,
  onMakeMarks,
}: Props) {
  const { rect, turn, corners } = values;
  const sheet = {
    width: Math.round(candidates?.width ?? mark.width),
    height: Math.round(candidates?.height ?? mark.height),
  };
  const found = candidates?.marks ?? [];
  const taken = chosen && found.find((m) => Math.hypot(m.at.x - chosen.x, m.at.y - chosen.y) < 2);
  return (
    <>
      <header>
        <h2>Crop</h2>
        <span className="soft">What lies outside is left out of every later step</span>
      </header>
      {(found.length > 1 || gap !== null) && (
        <FoundMarks
          found={found}
          taken={taken ?? null}
          hasChosen={chosen !== null}
          {...{ noun, isBusy, gap, onGap, onTake, onWhole, onMakeMarks }}
        />
      )}
      <RegionFields
        rect={rect ?? { x: 0, y: 0, ...sheet }}
        sheet={sheet}
        isTurned={turn !== 0}
        onChange={(r) => onChange({ ...values, rect: r }, 'Crop')}
      />
      <div className="panel-buttons">
        <Button
          size="small"
          onClick={() =>
            frameExtents &&
            onChange(
              { ...values, rect: closeRound(rect ?? { x: 0, y: 0, ...sheet }, frameExtents, turn) },
              'Crop to the mark',
            )
          }
          disabled={!frameExtents}
        >
          Crop to the mark
        </Button>
        <Button
          size="small"
          onClick={() => onChange({ ...values, rect: null }, 'Take the whole picture')}
          disabled={!rect}
        >
          Whole {corners ? 'sheet' : 'picture'}
        </Button>
      </div>
      <div className="panel-row">
        <span>
          <b>Turn</b>
          <small className="soft">{turn === 0 ? 'as it is' : `${leaning(turn)}, set level`}</small>
        </span>
        <InputNumber
          size="small"
          aria-label="Turn"
          min={-MOST_TURN_DEG}
          max={MOST_TURN_DEG}
          step={0.1}
          precision={1}
          value={turn}
          onChange={(v) => v !== null && onChange({ ...values, turn: v }, 'Turn')}
          suffix="°"
          style={{ width: 104 }}
        />
      </div>
      <TurnSlider turn={turn} onChange={(v) => onChange({ ...values, turn: v }, 'Turn')} />
      <div className="panel-links">
        <button
          type="button"
          className="plain small"
          aria-pressed={mode === 'line'}
          onClick={() => onMode(mode === 'line' ? 'region' : 'line')}
        >
          {mode === 'line' ? 'Cancel' : 'Straighten along a line'}
        </button>
        {found.length > 0 && (
          <button
            type="button"
            className="plain small"
            onClick={() => onChange({ ...values, turn: (taken ?? found[0]).angleDeg }, 'Straighten by the writing')}
          >
            Straighten by the writing
          </button>
        )}
        {turn !== 0 && (
          <button type="button" className="plain small" onClick={() => onChange({ ...values, turn: 0 }, 'Reset turn')}>
            Reset turn
          </button>
        )}
      </div>
      <div className="panel-row">
        <span>
          <b>Sheet’s corners</b>
          <small className="soft">{corners ? 'put flat by its four corners' : 'for a sheet seen from the side'}</small>
        </span>
      </div>
      {!corners && candidates?.corners && (
        <p className="finding note">
          <b>Sheet edges seen.</b> The sheet lies askew.{' '}
          <button
            type="button"
            className="plain small"
            onClick={() =>
              onChange({ ...values, rect: null, turn: 0, corners: candidates.corners }, 'Put the sheet flat')
            }
          >
            Put it flat
          </button>
        </p>
      )}
      <div className="panel-links">
        <button
          type="button"
          className="plain small"
          aria-pressed={mode === 'corners'}
          onClick={() => onMode(mode === 'corners' ? 'region' : 'corners')}
        >
          {mode === 'corners' ? 'Done with the corners' : 'Set the corners'}
        </button>
        {corners && (
          <button
            type="button"
            className="plain small"
            onClick={() => onChange({ ...values, rect: null, turn: 0, corners: null }, 'As photographed')}
          >
            As photographed
          </button>
        )}
      </div>
    </>
  );
}

function TurnSlider({ turn, onChange }: { turn: number; onChange: (turn: number) => void }) {
  return (
    <Slider
      ariaLabelForHandle="Turn by hand"
      min={-MOST_TURN_DEG}
      max={MOST_TURN_DEG}
      step={0.1}
      defaultValue={turn}
      key={turn}
      tooltip={{ formatter: (v) => `${v?.toFixed(1)}°` }}
      onChangeComplete={onChange}
      marks={{ 0: ' ' }}
    />
  );
}

function RegionFields({
  rect,
  sheet,
  isTurned,
  onChange,
}: {
  rect: RectPx;
  sheet: { width: number; height: number };
  isTurned: boolean;
  onChange: (rect: RectPx) => void;
}) {
  const set = (key: keyof RectPx, value: number | null) => {
    if (value === null) return;
    const next = { ...rect, [key]: value };
    // A turned region may reach beyond the picture; an upright one has nothing to show there.
    if (isTurned) return onChange(next);
    const x = Math.min(Math.max(0, next.x), sheet.width - LEAST_PX);
    const y = Math.min(Math.max(0, next.y), sheet.height - LEAST_PX);
    onChange({
      x,
      y,
      width: Math.max(LEAST_PX, Math.min(next.width, sheet.width - x)),
      height: Math.max(LEAST_PX, Math.min(next.height, sheet.height - y)),
    });
  };
  const field = (key: keyof RectPx, label: string, most: number) => (
    <InputNumber
      size="small"
      aria-label={label}
      min={isTurned && (key === 'x' || key === 'y') ? -most : key === 'x' || key === 'y' ? 0 : LEAST_PX}
      max={most}
      precision={0}
      value={Math.round(rect[key])}
      onChange={(v) => set(key, v)}
      suffix="px"
      style={{ width: 92 }}
    />
  );
  return (
    <>
      <div className="panel-row">
        <b>Place</b>
        <span className="panel-pair">
          {field('x', 'From the left', sheet.width)}
          {field('y', 'From the top', sheet.height)}
        </span>
      </div>
      <div className="panel-row">
        <b>Size</b>
        <span className="panel-pair">
          {field('width', 'Width', sheet.width)}
          {field('height', 'Height', sheet.height)}
        </span>
      </div>
    </>
  );
}

/** A region drawn in to what is visible of it, with a little room. */
function closeRound(rect: RectPx, extents: RectPx, turnDeg: number): RectPx {
  const room = Math.round(Math.max(extents.width, extents.height) * 0.06) + 4;
  const width = Math.min(rect.width, Math.ceil(extents.width + 2 * room));
  const height = Math.min(rect.height, Math.ceil(extents.height + 2 * room));
  // The new region's centre, measured from the old one's, turned back onto the sheet.
  const clamp = (v: number, least: number, most: number) => Math.min(Math.max(v, least), most);
  const u = clamp(extents.x + extents.width / 2, width / 2, rect.width - width / 2) - rect.width / 2;
  const v = clamp(extents.y + extents.height / 2, height / 2, rect.height - height / 2) - rect.height / 2;
  const a = (turnDeg * Math.PI) / 180;
  const [cx, cy] = [
    rect.x + rect.width / 2 + u * Math.cos(a) - v * Math.sin(a),
    rect.y + rect.height / 2 + u * Math.sin(a) + v * Math.cos(a),
  ];
  return { x: Math.round(cx - width / 2), y: Math.round(cy - height / 2), width, height };
}

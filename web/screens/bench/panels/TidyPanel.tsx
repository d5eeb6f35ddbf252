import { InputNumber, Slider } from 'antd';
import type { Setting } from '../../../../core/params';
import { type StageValues, stages } from '../../../../core/stages';
import { MOST_SPECK_PX } from '../../../../core/stages/tidy';
import { MOST_CHARTED, type PieceFact, type TidyFacts } from '../../../../core/stages/tidyFacts';
import { type ColourGroup, colourGroups } from '../../../../core/tidy/colourGroups';
import { Lazy } from '../../../components/Lazy';
import { SettingRow } from '../../../components/SettingRow';
import type { Brush } from '../../../data/useBrush';
import { type TidyTool, brushTools, outlineTools } from '../stages/tidyTools';
import { LazyCostChart } from './LazyCostChart';
import { Measuring } from './Measuring';
import { PieceColours } from './PieceColours';

type Values = StageValues['tidy'];

interface Props {
  readonly values: Values;
  readonly facts: TidyFacts | null;
  /** The facts are those of the picture at full size. */
  readonly isWhole: boolean;
  readonly tool: string | null;
  readonly brush: Brush;
  readonly onBrush: (change: Partial<Brush>) => void;
  readonly onTool: (tool: string | null) => void;
  readonly onGoTo: (piece: PieceFact) => void;
  readonly onFlip: (piece: PieceFact) => void;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** The colour whose pieces are picked together. */
  readonly picked: string | null;
  readonly onPick: (hex: string | null) => void;
  readonly onPreview: (values: Values) => void;
  readonly onCommit: (values: Values, why: string) => void;
}

const SHOWN_PIECES = 40;
/** Closer than this two places name the same piece. */
const SAME_PLACE_PX = 1.5;
const px = (area: number) => `${area >= 10 ? Math.round(area) : Math.round(area * 10) / 10} px`;
const setting = stages.get('tidy').params.specksBelow as unknown as Setting<never>;

/** What goes, what stays, and the tools that say so by hand. */
export function TidyPanel(props: Props) {
  const { values, facts, isWhole, tool, brush, onBrush, onTool } = props;
  const isBrush = brushTools.some((t) => t.id === tool);
  return (
    <>
      <header>
        <h2>Tidy</h2>
        <span className="soft">{facts ? piecesWords(facts, isWhole) : 'being measured'}</span>
      </header>
      {facts ? <Specks {...props} facts={facts} /> : <Measuring what="Pieces are being counted" />}
      <Tools label="By brush" tools={brushTools} tool={tool} onTool={onTool} />
      {isBrush && (
        <>
          <label className="panel-row">
            <b>Size</b>
            <Slider
              className="brush-slider"
              min={1}
              max={400}
              value={brush.size}
              tooltip={{ open: false }}
              onChange={(size) => onBrush({ size })}
            />
            <InputNumber
              size="small"
              aria-label="Brush size"
              min={1}
              max={2000}
              value={brush.size}
              suffix="px"
              style={{ width: 92 }}
              onChange={(size) => size && onBrush({ size })}
            />
          </label>
          <label className="panel-row">
            <b>Edge</b>
            <Slider
              className="brush-slider"
              min={0}
              max={1}
              step={0.05}
              value={brush.hardness}
              tooltip={{ open: false }}
              onChange={(hardness) => onBrush({ hardness })}
            />
            <span className="soft small">
              {brush.hardness > 0.95 ? 'hard' : brush.hardness < 0.3 ? 'soft' : 'medium'}
            </span>
          </label>
        </>
      )}
      <Tools label="By outline" tools={outlineTools} tool={tool} onTool={onTool} />
      <ByHand {...props} />
      <ByColour {...props} />
      {values.specksBelow > 0 || facts?.droppedCount || facts?.pieceCount ? <PieceList {...props} /> : null}
    </>
  );
}

/** Of a smaller picture numbers are near, until the whole one is measured. */
function piecesWords({ pieceCount, droppedCount }: TidyFacts, isWhole: boolean): string {
  const stay = pieceCount - droppedCount;
  const words = `${isWhole ? '' : 'about '}${stay} ${stay === 1 ? 'piece' : 'pieces'}`;
  return droppedCount > 0 ? `${words}, ${droppedCount} dropped` : words;
}

interface ToolsProps {
  readonly label: string;
  readonly tools: readonly TidyTool[];
  readonly tool: string | null;
  readonly onTool: (tool: string | null) => void;
}

const Tools = ({ label, tools, tool, onTool }: ToolsProps) => (
  <div className="panel-field" role="group" aria-label={label}>
    <b>{label}</b>
    <div className="tidy-tools">
      {tools.map((t) => (
        <button
          key={t.id}
          type="button"
          className="pill"
          aria-pressed={tool === t.id}
          onClick={() => onTool(tool === t.id ? null : t.id)}
        >
          {t.label}
        </button>
      ))}
    </div>
  </div>
);

// Specks are small: the axis runs by the cube root, so that one and a hundred stand apart.
const most = (facts: TidyFacts) => Math.max(100, Math.min(MOST_SPECK_PX, (facts.areas.at(-1) ?? 100) * 0.05));

function Specks({ values, facts, isWhole, onPreview, onCommit }: Props & { facts: TidyFacts }) {
  const top = most(facts);
  const scale = { to: (v: number) => Math.cbrt(v / top), from: (s: number) => s ** 3 * top };
  const sizes = facts.areas.filter((a) => a < top);
  const at = Array.from({ length: 41 }, (_, k) => scale.from(k / 40));
  const below = at.map((limit) => sizes.filter((a) => a < limit).length);
  const lost = at.map((limit) => sizes.filter((a) => a < limit).reduce((sum, a) => sum + a, 0));
  const whole = facts.areas.reduce((sum, a) => sum + a, 0);
  const { proposal } = facts;
  const set = (specksBelow: number, why: string) => onCommit({ ...values, specksBelow }, why);
  const count = facts.areas.filter((a) => a < values.specksBelow).length;
  const number = `${isWhole ? '' : 'about '}${count >= MOST_CHARTED ? `more than ${MOST_CHARTED}` : count}`;
  return (
    <>
      <SettingRow
        setting={setting}
        hint={values.specksBelow > 0 ? `${number} ${count === 1 ? 'piece goes' : 'pieces go'}` : 'all pieces stay'}
        value={values.specksBelow}
        onCommit={(v) => set(v as number, 'Set the size of specks')}
      />
      {facts.areas.length > 1 && (
        <Lazy height={76}>
          <LazyCostChart
            label="Drop specks below"
            value={Math.min(top, values.specksBelow)}
            most={top}
            steps={{ small: 1, large: Math.max(2, Math.round(top / 40)) }}
            steady={proposal.limit > 0 ? proposal : { from: 0, to: 0 }}
            words={(v) => `${Math.round(v)} px`}
            scale={scale}
            costs={[
              { at, share: below.map((n) => n / Math.max(1, sizes.length)), words: 'pieces that go' },
              { at, share: lost.map((a) => a / Math.max(1, whole)), words: 'of the mark lost', isLoss: true },
            ]}
            onPreview={(v) => onPreview({ ...values, specksBelow: Math.round(v) })}
            onCommit={(v) => set(Math.round(v), 'Set the size of specks')}
          />
        </Lazy>
      )}
      {values.specksBelow > 0 && (
        <button type="button" className="plain small" onClick={() => set(0, 'Keep all pieces')}>
          Keep all
        </button>
      )}
    </>
  );
}

/** How much was done by hand, and the way back to none of it. */
function ByHand({ values, onCommit }: Props) {
  const { edits, outside, drop, keep } = values;
  const count = edits.length + outside.length;
  const named = drop.length + keep.length;
  if (count + named === 0) return null;
  const words = [
    count > 0 && `${count} ${count === 1 ? 'stroke or outline' : 'strokes and outlines'}`,
    named > 0 && `${named} ${named === 1 ? 'piece' : 'pieces'} chosen`,
  ].filter(Boolean);
  return (
    <div className="panel-row">
      <span className="soft small">{words.join(', ')}</span>
      <button
        type="button"
        className="plain small"
        onClick={() =>
          onCommit({ ...values, edits: [], outside: [], drop: [], keep: [] }, 'Take back all done by hand')
        }
      >
        Take all back
      </button>
    </div>
  );
}

const rounded = (v: number) => Math.round(v * 10) / 10;
const placesOf = (group: ColourGroup<PieceFact>) => group.pieces.map(({ x, y }) => ({ x: rounded(x), y: rounded(y) }));

/** Pieces of one colour, dropped, kept or recoloured together; of no use where there is but one colour. */
function ByColour({ values, facts, palette, picked, onPick, onCommit }: Props) {
  const groups = facts ? colourGroups(facts.pieces) : [];
  if (groups.length < 2) return null;
  const without = (group: ColourGroup<PieceFact>) => {
    const isOther = (p: { x: number; y: number }) =>
      group.pieces.every((q) => Math.abs(p.x - q.x) >= SAME_PLACE_PX || Math.abs(p.y - q.y) >= SAME_PLACE_PX);
    return { ...values, drop: values.drop.filter(isOther), keep: values.keep.filter(isOther) };
  };
  return (
    <PieceColours
      groups={groups}
      picked={picked}
      palette={palette}
      onPick={onPick}
      largest={facts?.pieces[0]}
      onDrop={(group) => {
        const rest = without(group);
        const pieces = group.pieces.filter((p) => p !== facts?.pieces[0]);
        onCommit({ ...rest, drop: [...rest.drop, ...placesOf({ ...group, pieces })] }, `Drop pieces of ${group.hex}`);
      }}
      onKeep={(group) => {
        const rest = without(group);
        const specks = placesOf({ ...group, pieces: group.pieces.filter((p) => p.areaPx < values.specksBelow) });
        onCommit({ ...rest, keep: [...rest.keep, ...specks] }, `Keep pieces of ${group.hex}`);
      }}
      onRecolour={(group, hex) => {
        const points = placesOf(group).flatMap(({ x, y }) => [x, y]);
        const edit = { kind: 'recolour' as const, points, colour: hex };
        onCommit({ ...values, edits: [...values.edits, edit] }, `Colour pieces of ${group.hex} ${hex}`);
        onPick(null);
      }}
    />
  );
}

/** The pieces, the largest first; one that hardly anybody sees says so. */
function PieceList({ facts, onGoTo, onFlip }: Props) {
  if (!facts || facts.pieces.length < 2) return null;
  // The large ones are the mark; specks and what was dropped are what one looks for.
  const listed = [...facts.pieces].slice(1).reverse().slice(0, SHOWN_PIECES);
  return (
    <details className="pieces" open={facts.pieceCount <= 12}>
      <summary>
        <b>Pieces</b>{' '}
        <span className="soft small">
          {facts.pieceCount > facts.pieces.length
            ? `the ${facts.pieces.length} largest of ${facts.pieceCount}, the smallest first`
            : 'the smallest first'}
        </span>
      </summary>
      <ul>
        {listed.map((piece) => (
          <li key={`${piece.x},${piece.y}`} className={piece.dropped ? 'is-dropped' : ''}>
            <button type="button" className="plain" onClick={() => onGoTo(piece)}>
              {px(piece.areaPx)}
            </button>
            <span className="soft small">
              {piece.peak < 0.12 && 'hardly visible · '}
              {piece.distancePx > 0 ? `${Math.round(piece.distancePx)} px off` : 'in the mark'}
            </span>
            <button type="button" className="plain small" onClick={() => onFlip(piece)}>
              {piece.dropped ? 'Keep' : 'Drop'}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}

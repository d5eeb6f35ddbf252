import type { Point } from '../../../../core/geometry/projective';
import type { StageValues } from '../../../../core/stages';
import type { PieceFact, TidyFacts } from '../../../../core/stages/tidyFacts';
import type { BrushEdit, Edit } from '../../../../core/tidy/edits';
import { colourGroups } from '../../../../core/tidy/colourGroups';
import { simplifyStroke } from '../../../../core/tidy/simplifyStroke';
import { useBrush } from '../../../data/useBrush';
import type { Bench, BenchProps, PictureTools, Press, TrailStage } from '../Bench';
import { TidyPanel } from '../panels/TidyPanel';
import { BrushSurface, OutlineSurface } from '../picture/HandTools';
import { PieceMarks } from '../picture/PieceMarks';
import type { Place } from '../picture/frame';
import { isInLoop } from '../picture/inLoop';
import { type TidyTool, tidyTools } from './tidyTools';

type Values = StageValues['tidy'];

export const tidyStage: TrailStage = {
  id: 'tidy',
  title: 'Tidy',
  Panel,
  Overlay,
  showsResult: true,
  keepsResult: true,
  onPress: (bench, press) => flipAt(bench, press),
  hint: ({ tool }) => (pickedColour(tool) ? PICKED_HINT : null) ?? tidyTools.find((t) => t.id === tool)?.hint ?? null,
  bead: ({ engine }) => ({ bitmap: engine.beads.tidy, ground: 'checker' }),
  status({ shown, values: { tidy } }) {
    const facts = factsOf(shown);
    if (!facts) return <span>being measured</span>;
    const specks = shown?.perStage.tidy.findings.find((f) => f.id === 'specks-apart');
    if (specks) return <span className="warn">{specks.title.replace(' beside the mark', '')}</span>;
    const done = tidy.edits.length + tidy.outside.length;
    if (facts.droppedCount > 0) return <span>{facts.droppedCount} dropped</span>;
    return (
      <span>{done > 0 ? `${done} by hand` : facts.pieceCount === 1 ? '1 piece' : `${facts.pieceCount} pieces`}</span>
    );
  },
};

/** A tool of this kind has the pieces of one colour picked. */
const PICKS = 'pieces-of:';
const PICKED_HINT = 'Ringed are all pieces of this colour. Esc ends.';
const pickedColour = (tool: string | null) => (tool?.startsWith(PICKS) ? tool.slice(PICKS.length) : null);

function factsOf(shown: Bench['shown']): TidyFacts | null {
  const facts = shown?.perStage.tidy?.facts as TidyFacts | undefined;
  return facts?.pieces ? facts : null;
}

const isNear = (a: Point, b: Point) => Math.abs(a.x - b.x) < 1.5 && Math.abs(a.y - b.y) < 1.5;

/** A piece that goes is to stay, or the other way round. */
function flip({ values: { tidy }, commit }: Bench, piece: PieceFact): void {
  const place = { x: Math.round(piece.x * 10) / 10, y: Math.round(piece.y * 10) / 10 };
  const [drop, keep] = [tidy.drop, tidy.keep].map((all) => all.filter((p) => !isNear(p, place)));
  if (!piece.dropped) commit('tidy', { ...tidy, drop: [...drop, place], keep }, 'Drop a piece');
  else {
    const isSpeck = piece.areaPx < tidy.specksBelow;
    commit('tidy', { ...tidy, drop, keep: isSpeck ? [...keep, place] : keep }, 'Keep a piece');
  }
}

/** The smallest piece whose box holds a place. */
function pieceUnder(facts: TidyFacts, { x, y }: Point): PieceFact | null {
  const there = facts.pieces.filter(
    ({ box: b, dropped }) =>
      !dropped && x >= b.x - 1 && y >= b.y - 1 && x <= b.x + b.width + 1 && y <= b.y + b.height + 1,
  );
  return there.at(-1) ?? null;
}

// A press on a piece drops it; the mark itself, its largest piece, goes by no press.
function flipAt(bench: Bench, { place, tools }: Press): void {
  const facts = factsOf(bench.shown);
  if (!facts || bench.tool !== null) return;
  const piece = pieceUnder(facts, tools.toWorking(place));
  if (piece && piece !== facts.pieces[0]) flip(bench, piece);
}

function Panel({ bench }: BenchProps) {
  const { values, shown, tool } = bench;
  const [brush, setBrush] = useBrush();
  return (
    <TidyPanel
      values={values.tidy}
      facts={factsOf(shown)}
      isWhole={shown?.reduction === 1}
      tool={tool}
      brush={brush}
      onBrush={setBrush}
      onTool={bench.setTool}
      onGoTo={(piece) => bench.setVisit({ finding: 'specks-apart', at: placeIndex(bench, piece) })}
      onFlip={(piece) => flip(bench, piece)}
      palette={bench.brand.palette}
      picked={pickedColour(tool)}
      onPick={(hex) => bench.setTool(hex && PICKS + hex)}
      onPreview={(tidy) => bench.preview('tidy', tidy)}
      onCommit={(tidy, why) => bench.commit('tidy', tidy, why)}
    />
  );
}

function placeIndex({ shown }: Bench, piece: PieceFact): number {
  const finding = shown?.perStage.tidy.findings.find((f) => f.id === 'specks-apart');
  return Math.max(0, finding?.places.findIndex((p) => isNear(p, piece)) ?? 0);
}

const colours: Record<string, string> = {
  rub: 'rgb(239 239 239 / 75%)',
  back: 'rgb(106 42 91 / 45%)',
  solid: 'rgb(184 110 0 / 45%)',
};

function Overlay({ bench, tools }: BenchProps & { tools: PictureTools }) {
  const [brush] = useBrush();
  const facts = factsOf(bench.shown);
  const tool = tidyTools.find((t) => t.id === bench.tool);
  if (tools.mode === 'original') return null;
  const picked = pickedColour(bench.tool);
  const group = picked && facts ? colourGroups(facts.pieces).find((g) => g.hex === picked) : undefined;
  if (!tool)
    return (
      facts && <PieceMarks facts={facts} picked={group?.pieces} tools={tools} onFlip={(piece) => flip(bench, piece)} />
    );
  if (tool.way === 'outline')
    return (
      <OutlineSurface
        key={tool.id}
        label={tool.hint}
        view={tools.view}
        onLoop={(places) => applyLoop(bench, tools, tool, places)}
      />
    );
  const [a, b] = [tools.toFrame({ x: 0, y: 0 }), tools.toFrame({ x: 100, y: 0 })];
  const scale = (Math.hypot(b.x - a.x, b.y - a.y) / 100) * tools.view.scale;
  return (
    <BrushSurface
      label={tool.hint}
      view={tools.view}
      brush={brush}
      scale={scale}
      settled={bench.shown}
      colour={colours[tool.id]}
      onStroke={(places) => {
        const points = places.flatMap((p) => {
          const { x, y } = tools.toWorking(p);
          return [x, y, p.pressure];
        });
        const stroke: BrushEdit = { kind: tool.id as BrushEdit['kind'], ...brush, points };
        addEdit(bench, simplifyStroke(stroke), tool.label);
      }}
    />
  );
}

const addEdit = ({ values: { tidy }, commit }: Bench, edit: Edit, why: string) =>
  commit('tidy', { ...tidy, edits: [...tidy.edits, edit] }, why);

const round = (v: number) => Math.round(v * 10) / 10;

function applyLoop(bench: Bench, tools: PictureTools, tool: TidyTool, places: readonly Place[]): void {
  const { values, commit } = bench;
  const { tidy } = values;
  const loop = places.map((p) => tools.toWorking(p));
  const points = loop.flatMap(({ x, y }) => [round(x), round(y)]);
  switch (tool.id) {
    case 'sweep':
      sweep(bench, loop, tidy);
      break;
    case 'inside':
      commit('tidy', { ...tidy, outside: [...tidy.outside, points] }, 'Keep what is inside an outline');
      break;
    case 'solid-in':
      addEdit(bench, { kind: 'solid', points }, tool.label);
      break;
    case 'open-in':
      addEdit(bench, { kind: 'open', points }, tool.label);
      break;
    case 'cover':
      void coverWithBeside(bench, points, tool.label);
      break;
    default:
      addEdit(bench, { kind: 'cover', points, colour: null }, tool.label);
  }
  bench.setTool(null);
}

function sweep({ shown, commit }: Bench, loop: readonly Point[], tidy: Values): void {
  const facts = factsOf(shown);
  const swept = facts?.pieces.filter((p) => !p.dropped && isInLoop(p, loop)) ?? [];
  if (swept.length === 0) return;
  const drop = [...tidy.drop, ...swept.map(({ x, y }) => ({ x: round(x), y: round(y) }))];
  commit('tidy', { ...tidy, drop }, `Drop ${swept.length === 1 ? 'a piece' : `${swept.length} pieces`}`);
}

/** Covers an outline with the colour beside it; black where nothing solid is there. */
async function coverWithBeside(bench: Bench, points: readonly number[], why: string): Promise<void> {
  const found = await bench.engine.fast?.ask({ type: 'beside', values: bench.values, points });
  addEdit(bench, { kind: 'cover', points, colour: found ?? '#000000' }, why);
}

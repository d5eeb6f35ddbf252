import type { StageValues } from '../../../../core/stages';
import type { PieceOfTrace, TraceFacts } from '../../../../core/stages/traceFacts';
import type { Bench, BenchProps, PictureTools, TrailStage } from '../Bench';
import { TracePanel } from '../panels/TracePanel';
import { OutlineSurface } from '../picture/HandTools';
import { OutlineNodes } from '../picture/OutlineNodes';
import { TracedPieces } from '../picture/TracedPieces';
import { isInLoop } from '../picture/inLoop';

/** The tool that has outlines and nodes shown, and the one that picks pieces, with the numbers of those picked. */
const NODES = 'nodes';
const PICKS = 'pieces:';

type Values = StageValues['trace'];

export const traceStage: TrailStage = {
  id: 'trace',
  title: 'Trace',
  Panel,
  Overlay,
  showsResult: true,
  keepsResult: true,
  hint: ({ tool }) => (tool?.startsWith(PICKS) ? 'Press pieces, or draw round several. Esc ends.' : null),
  bead: ({ engine }) => ({ bitmap: engine.beads.trace, ground: 'checker' }),
  status({ shown, values: { trace } }) {
    const facts = factsOf(shown);
    if (facts?.state === 'paths') return <span>paths</span>;
    if (trace.use === 'off') return <span>pixels</span>;
    if (facts?.state !== 'traced') return <span>being traced</span>;
    const off = shown?.perStage.trace.findings.find((f) => f.id === 'outline-off');
    if (off) return <span className="warn">{off.title}</span>;
    return <span>{facts.nodes} nodes</span>;
  },
};

function factsOf(shown: Bench['shown']): TraceFacts | null {
  const facts = shown?.perStage.trace?.facts as TraceFacts | undefined;
  return facts?.state ? facts : null;
}

/** Numbers of the pieces that are picked; null while none can be. */
function picksOf(tool: string | null): ReadonlySet<number> | null {
  if (!tool?.startsWith(PICKS)) return null;
  const text = tool.slice(PICKS.length);
  return new Set(text === '' ? [] : text.split(',').map(Number));
}

function Panel({ bench }: BenchProps) {
  const { values, shown, tool, engine } = bench;
  return (
    <TracePanel
      values={values.trace}
      facts={factsOf(shown)}
      palette={bench.brand.palette}
      showsNodes={tool === NODES}
      picked={picksOf(tool)}
      share={engine.step?.share ?? null}
      onNodes={(isShown) => bench.setTool(isShown ? NODES : null)}
      onPick={(picked) => bench.setTool(picked && PICKS + [...picked].join(','))}
      onPieces={(pieces, to, why) => changePieces(bench, pieces, to, why)}
      onCommit={(next, why) => bench.commit('trace', next, why)}
    />
  );
}

const round = (v: number) => Math.round(v * 10) / 10;
const SAME_PLACE_PX = 0.6;

/** Draws pieces in another colour, or leaves them out; `undefined` takes what was changed of them back. */
function changePieces(
  { values: { trace }, commit, setTool }: Bench,
  pieces: readonly PieceOfTrace[],
  to: (piece: PieceOfTrace) => string | null | undefined,
  why: string,
): void {
  const isOf = (one: Values['pieces'][number]) =>
    pieces.some((p) => Math.abs(p.x - one.x) < SAME_PLACE_PX && Math.abs(p.y - one.y) < SAME_PLACE_PX);
  const rest = trace.pieces.filter((one) => !isOf(one));
  const fresh = pieces.flatMap((piece) => {
    const hex = to(piece);
    return hex === undefined ? [] : [{ x: round(piece.x), y: round(piece.y), from: piece.found, to: hex }];
  });
  commit('trace', { ...trace, pieces: [...rest, ...fresh] }, why);
  setTool(PICKS);
}

function Overlay({ bench, tools }: BenchProps & { tools: PictureTools }) {
  const facts = factsOf(bench.shown);
  if (!facts || facts.pieces.length === 0 || tools.mode === 'original') return null;
  const { view } = tools;
  if (bench.tool === NODES)
    return (
      <OutlineNodes
        outlines={facts.pieces
          .filter((p) => !p.isDropped)
          .map((p) => p.d)
          .join('')}
        view={view}
      />
    );
  const picked = picksOf(bench.tool);
  if (!picked) return null;
  const pick = (numbers: readonly number[], toggles: boolean) => {
    const next = new Set(picked);
    for (const k of numbers) {
      if (toggles && next.has(k)) next.delete(k);
      else next.add(k);
    }
    bench.setTool(PICKS + [...next].join(','));
  };
  return (
    <>
      <TracedPieces pieces={facts.pieces} picked={picked} view={view} />
      <OutlineSurface
        label="Press pieces to pick them, or draw round several"
        view={view}
        onPress={(place) => {
          const k = pieceUnder(facts.pieces, place);
          if (k !== null) pick([k], true);
        }}
        onLoop={(loop) =>
          pick(
            facts.pieces.flatMap(({ box: b }, k) =>
              isInLoop({ x: b.x + b.width / 2, y: b.y + b.height / 2 }, loop) ? [k] : [],
            ),
            false,
          )
        }
      />
    </>
  );
}

/** The topmost and smallest piece whose outline holds a place, frame pixels. */
function pieceUnder(pieces: readonly PieceOfTrace[], { x, y }: { x: number; y: number }): number | null {
  const context = document.createElement('canvas').getContext('2d');
  for (let k = pieces.length - 1; k >= 0; k--) {
    const { box: b, d } = pieces[k];
    if (x < b.x || y < b.y || x > b.x + b.width || y > b.y + b.height) continue;
    if (context?.isPointInPath(new Path2D(d), x, y, 'evenodd')) return k;
  }
  return null;
}

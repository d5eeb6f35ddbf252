import type { TraceFacts } from '../../../../core/stages/traceFacts';
import type { Bench, BenchProps, PictureTools, TrailStage } from '../Bench';
import { TracePanel } from '../panels/TracePanel';
import { OutlineNodes } from '../picture/OutlineNodes';

/** The tool that has outlines and nodes shown. */
const NODES = 'nodes';

export const traceStage: TrailStage = {
  id: 'trace',
  title: 'Trace',
  Panel,
  Overlay,
  showsResult: true,
  keepsResult: true,
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

function Panel({ bench }: BenchProps) {
  return (
    <TracePanel
      values={bench.values.trace}
      facts={factsOf(bench.shown)}
      palette={bench.brand.palette}
      showsNodes={bench.tool === NODES}
      onNodes={(isShown) => bench.setTool(isShown ? NODES : null)}
      onCommit={(values, why) => bench.commit('trace', values, why)}
    />
  );
}

function Overlay({ bench, tools }: BenchProps & { tools: PictureTools }) {
  const facts = factsOf(bench.shown);
  if (bench.tool !== NODES || !facts || facts.outlines === '' || tools.mode === 'original') return null;
  return <OutlineNodes outlines={facts.outlines} view={tools.view} />;
}

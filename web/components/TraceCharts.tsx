import { ComposedChart, Line, ReferenceArea, ReferenceLine, XAxis, YAxis } from 'recharts';
import type { TraceFacts } from '../../core/stages/traceFacts';

const WIDTH = 280;
const HEIGHT = 92;
const MARGIN = { top: 6, right: 12, bottom: 0, left: 12 };
const dot = (fill: string) => ({ r: 2.5, fill, stroke: 'none' });
const TICK = { fontSize: 11, fill: 'var(--soft)' };

interface ToleranceProps {
  readonly points: TraceFacts['byTolerance'];
  readonly value: number;
  readonly onChoose: (tolerancePx: number) => void;
}

/** Nodes and mean deviation against the tolerance; a press takes the nearest. */
export function ToleranceChart({ points, value, onChoose }: ToleranceProps) {
  const data = points.map((p) => ({ ...p, x: Math.log2(p.tolerancePx) }));
  const last = points[points.length - 1];
  return (
    <figure className="trace-chart" aria-label={`Nodes and deviation by tolerance: ${wordsOf(points)}`}>
      <ComposedChart
        width={WIDTH}
        height={HEIGHT}
        margin={MARGIN}
        data={data}
        accessibilityLayer={false}
        onClick={({ activeTooltipIndex: k }) => points[Number(k)] && onChoose(points[Number(k)].tolerancePx)}
      >
        <XAxis
          type="number"
          dataKey="x"
          domain={['dataMin', 'dataMax']}
          ticks={data.map((d) => d.x)}
          tickFormatter={(x: number) => `${round(2 ** x)}`}
          tick={TICK}
          height={18}
          tickLine={false}
        />
        <YAxis yAxisId="nodes" hide domain={[0, 'dataMax']} />
        <YAxis yAxisId="off" hide domain={[0, 'dataMax']} />
        <ReferenceLine yAxisId="nodes" x={Math.log2(value)} className="cost-hand" />
        <Line
          yAxisId="nodes"
          dataKey="nodes"
          dot={dot('var(--plum)')}
          isAnimationActive={false}
          className="chart-nodes"
        />
        <Line
          yAxisId="off"
          dataKey="meanPx"
          dot={dot('var(--marigold)')}
          isAnimationActive={false}
          className="chart-off"
        />
      </ComposedChart>
      <figcaption className="small">
        <span className="chart-key is-nodes">nodes, {points[0].nodes} at most</span>
        <span className="chart-key is-off">
          off by {round(last.meanPx)} px at {round(last.tolerancePx)}
        </span>
      </figcaption>
    </figure>
  );
}

const round = (v: number) => Math.round(v * 100) / 100;
const wordsOf = (points: ToleranceProps['points']) =>
  points.map((p) => `${round(p.tolerancePx)} px: ${p.nodes} nodes, ${round(p.meanPx)} px off`).join('; ');

interface ColourProps {
  readonly counts: TraceFacts['counts'];
  readonly steady: TraceFacts['steady'];
  readonly onChoose: (count: number) => void;
}

/** More colours than this are drawn as so many. */
const MOST_SHOWN = 16;

/** How many colours there are when those closer than a distance are one; the widest plateau is what is proposed. */
export function ColourCountChart({ counts, steady, onChoose }: ColourProps) {
  const data = counts.map((c) => ({ at: c.at, count: Math.min(MOST_SHOWN, c.count), whole: c.count }));
  return (
    <figure className="trace-chart" aria-label={`Colours found, by how far apart they are: ${countWords(counts)}`}>
      <ComposedChart
        width={WIDTH}
        height={64}
        margin={MARGIN}
        data={data}
        accessibilityLayer={false}
        onClick={({ activeTooltipIndex: k }) => data[Number(k)] && onChoose(data[Number(k)].whole)}
      >
        <XAxis type="number" dataKey="at" domain={['dataMin', 'dataMax']} hide />
        <YAxis hide domain={[0, 'dataMax']} />
        <ReferenceArea x1={steady.from} x2={steady.to} className="cost-steady" />
        <Line type="stepAfter" dataKey="count" dot={false} isAnimationActive={false} className="chart-nodes" />
      </ComposedChart>
      <figcaption className="small soft">Fewer colours to the right; the steady range is shaded.</figcaption>
    </figure>
  );
}

function countWords(counts: ColourProps['counts']): string {
  const seen = [...new Set(counts.map((c) => c.count))].slice(-8);
  return seen.join(', ');
}

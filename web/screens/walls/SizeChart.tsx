import { Bar, BarChart, Cell, ReferenceLine, XAxis, YAxis } from 'recharts';

/** A mark's optical size against the middle one, filling its box and as it stands. */
export interface SizePair {
  readonly id: string;
  readonly name: string;
  readonly before: number;
  readonly after: number;
}

interface Props {
  readonly pairs: readonly SizePair[];
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}

const WIDTH = 288;
const HEIGHT = 118;
/** Sizes so far off the middle one stand out. */
const FAR = 0.12;

/** Optical sizes of all marks, in equal boxes and as they stand. */
export function SizeChart({ pairs, chosen, onChoose }: Props) {
  const said = pairs.map((p) => `${p.name} ${p.before.toFixed(2)}, ${p.after.toFixed(2)}`).join('; ');
  return (
    <figure className="wall-chart" aria-label={`Optical size in equal boxes and as it stands: ${said}`}>
      <BarChart
        width={WIDTH}
        height={HEIGHT}
        data={[...pairs]}
        margin={{ top: 6, right: 0, bottom: 0, left: 0 }}
        barGap={1}
        barCategoryGap="22%"
        accessibilityLayer={false}
        onClick={({ activeTooltipIndex: k }) => pairs[Number(k)] && onChoose(pairs[Number(k)].id)}
      >
        <XAxis dataKey="id" hide />
        <YAxis hide domain={[0, 'dataMax']} />
        <ReferenceLine y={1} className="wall-chart-middle" />
        <Bar dataKey="before" isAnimationActive={false}>
          {pairs.map((p) => (
            <Cell key={p.id} className={Math.abs(p.before - 1) > FAR ? 'is-far' : 'is-near'} />
          ))}
        </Bar>
        <Bar dataKey="after" isAnimationActive={false}>
          {pairs.map((p) => (
            <Cell key={p.id} className={p.id === chosen ? 'is-chosen' : 'is-level'} />
          ))}
        </Bar>
      </BarChart>
      <figcaption className="small soft">
        <span className="wall-key is-near">equal boxes</span> <span className="wall-key is-far">far off</span>{' '}
        <span className="wall-key is-level">as they stand</span>
      </figcaption>
    </figure>
  );
}

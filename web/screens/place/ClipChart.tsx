import { Line, LineChart, ReferenceLine, XAxis, YAxis } from 'recharts';
import type { LookView } from '../../../contract/views';
import type { Variant } from '../../../core/recipe/recipe';

const WIDTH = 280;
const HEIGHT = 96;
const DASHES = ['', '6 3', '2 3', '9 3 2 3', '1 4'];

/** How much of each variant's outline stands out, from a clip's beginning to its end; the chosen one is drawn bold. */
export default function ClipChart({
  item,
  variants,
}: {
  item: LookView['items'][number];
  variants: readonly Variant[];
}) {
  const ids = Object.keys(item.overTime[0]?.shares ?? {});
  const data = item.overTime.map(({ seconds, shares }) => ({ seconds, ...shares }));
  const own = item.variant ?? '';
  const worst = item.overTime.reduce((a, b) => (b.shares[own] < a.shares[own] ? b : a), item.overTime[0]);
  return (
    <figure className="clip-chart" aria-label="Contrast over the length of the clip">
      <LineChart width={WIDTH} height={HEIGHT} data={data} margin={{ top: 6, right: 4, bottom: 0, left: 0 }}>
        <XAxis
          dataKey="seconds"
          type="number"
          domain={[0, 'dataMax']}
          tickCount={5}
          tickFormatter={(v: number) => `${Math.round(v)} s`}
          fontSize={11}
          tickLine={false}
        />
        <YAxis hide domain={[0, 1]} />
        <ReferenceLine x={worst.seconds} className="clip-worst" />
        {ids.map((id, k) => (
          <Line
            key={id}
            dataKey={id}
            dot={false}
            isAnimationActive={false}
            strokeDasharray={DASHES[k % DASHES.length]}
            className={id === own ? 'clip-own' : 'clip-other'}
          />
        ))}
      </LineChart>
      <figcaption className="small soft">
        {ids.map((id, k) => (
          <span key={id}>
            <svg width="22" height="6" aria-hidden="true">
              <path
                d="M0 3h22"
                strokeDasharray={DASHES[k % DASHES.length]}
                className={id === own ? 'clip-own' : 'clip-other'}
              />
            </svg>{' '}
            {variants.find((v) => v.id === id)?.name ?? id}
          </span>
        ))}
      </figcaption>
      <p className="small">
        Worst moment: {worst.seconds.toFixed(1)} s, {Math.round(worst.shares[own] * 100)} % of the outline at 3 : 1.
      </p>
    </figure>
  );
}

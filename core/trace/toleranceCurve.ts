import { measureDeviation } from './deviation';
import { fitRings } from './traceCoverage';
import type { TracedLayer } from './traceMaster';

/** What a tolerance would bring. */
export interface TolerancePoint {
  readonly tolerancePx: number;
  readonly nodes: number;
  readonly meanPx: number;
}

/** From fine to coarse, each about twice the last. */
const TOLERANCES = [0.1, 0.25, 0.5, 1, 2];
/** Of larger pictures so many measured places stand for all. */
const MOST_PLACES = 12_000;

/**
 * Nodes and mean deviation for a range of tolerances, from borders measured already.
 * @param reduction  tolerances are full-size px; the layers' own pixels are so many times larger
 */
export function toleranceCurve(layers: readonly TracedLayer[], cornerDeg: number, reduction: number): TolerancePoint[] {
  const rings = layers.flatMap(({ traced }) => traced.rings.map((ring, k) => ({ ring, fine: traced.fineness[k] })));
  const places = rings.reduce((n, { ring }) => n + ring.xs.length, 0);
  const stride = Math.max(1, Math.ceil(places / MOST_PLACES));
  const some = rings.filter((_, k) => k % stride === 0);
  const seen = some.reduce((n, { ring }) => n + ring.xs.length, 0);
  if (seen === 0) return [];
  return TOLERANCES.map((tolerancePx) => {
    const own = some.map((s) => s.ring);
    const fitted = fitRings(
      own,
      some.map((s) => s.fine),
      { tolerancePx: tolerancePx / reduction, cornerDeg },
    );
    const { meanPx } = measureDeviation(fitted.path, own);
    return { tolerancePx, nodes: Math.round((fitted.nodes * places) / seen), meanPx: meanPx * reduction };
  });
}

import { getStroke } from 'perfect-freehand';

/** A point of a pen's way: place, and pressure 0..1. */
export type PenPoint = readonly [x: number, y: number, pressure: number];

export interface PenOptions {
  /** Width of a stroke at full pressure, in the units of the points. */
  readonly width: number;
  /** How much pressure changes the width: 0 not at all, 1 down to nothing. */
  readonly thinning: number;
  /** 0 keeps every tremble, 1 smooths most. */
  readonly smoothing: number;
  /** Where a device tells no pressure: slow is thick, fast is thin. */
  readonly bySpeed?: boolean;
}

/**
 * The outline of one pen stroke as SVG path data, to be filled by the nonzero rule; empty for no points.
 * @param points  in order; a single one gives a dot
 */
export function penOutline(points: readonly PenPoint[], options: PenOptions): string {
  if (points.length === 0) return '';
  const outline = getStroke(
    points.map(([x, y, p]) => [x, y, p]),
    {
      size: options.width,
      thinning: options.thinning,
      smoothing: options.smoothing,
      streamline: 0.25 + options.smoothing * 0.4,
      simulatePressure: options.bySpeed ?? false,
      last: true,
    },
  );
  if (outline.length < 3) return '';
  // Quadratic curves through the middles of the outline's sides leave no corner.
  const f = (v: number) => String(Math.round(v * 100) / 100);
  const middle = (k: number) => {
    const [a, b] = [outline[k], outline[(k + 1) % outline.length]];
    return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  };
  const start = middle(outline.length - 1);
  let d = `M${f(start[0])} ${f(start[1])}`;
  for (let k = 0; k < outline.length; k++) {
    const to = middle(k);
    d += `Q${f(outline[k][0])} ${f(outline[k][1])} ${f(to[0])} ${f(to[1])}`;
  }
  return `${d}Z`;
}

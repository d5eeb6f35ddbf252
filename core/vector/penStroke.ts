import { getStroke } from 'perfect-freehand';
import { type Path, PathBuilder } from './path';

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

/** The more a stroke is smoothed, the more its points are drawn together too: from a little up to so much more. */
const LEAST_STREAMLINE = 0.25;
const STREAMLINE_BY_SMOOTHING = 0.4;

/**
 * Points round one pen stroke, in order; fewer than three for one that leaves no trace. @param points  a single one
 * gives a dot
 */
export function penRing(points: readonly PenPoint[], options: PenOptions): readonly (readonly number[])[] {
  if (points.length === 0) return [];
  return getStroke(
    points.map(([x, y, p]) => [x, y, p]),
    {
      size: options.width,
      thinning: options.thinning,
      smoothing: options.smoothing,
      streamline: LEAST_STREAMLINE + options.smoothing * STREAMLINE_BY_SMOOTHING,
      simulatePressure: options.bySpeed ?? false,
      last: true,
    },
  );
}

/**
 * The outline of one pen stroke, to be filled by the nonzero rule: curves through the middles of the ring's sides,
 * which leave no corner.
 */
export function penOutline(points: readonly PenPoint[], options: PenOptions): Path {
  const ring = penRing(points, options);
  const out = new PathBuilder();
  if (ring.length < 3) return out.done();
  const middle = (k: number): [number, number] => {
    const [a, b] = [ring[k], ring[(k + 1) % ring.length]];
    return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  };
  out.moveTo(...middle(ring.length - 1));
  for (let k = 0; k < ring.length; k++) out.quadTo(ring[k][0], ring[k][1], ...middle(k));
  return out.done();
}

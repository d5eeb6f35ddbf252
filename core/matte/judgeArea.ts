/** What is measured of an enclosed area, in pixels of the picture it was found in. */
export interface AreaShape {
  readonly areaPx: number;
  /** Twice the area over the length of its rim: half the width of a long area, the radius of a round one, or so. */
  readonly halfWidth: number;
  /** Median thickness of what surrounds it. */
  readonly wall: number;
  /** Share of the directions in which the outside ground lies right behind that wall. */
  readonly wallIsOuter: number;
  /** Flat, near to the ground's colour, but not the same. */
  readonly isPale: boolean;
  /** Mean distance from the ground's colour, code values. */
  readonly offset: number;
  /** Share of its rim within three pixels of the outside ground. */
  readonly touchesOutside: number;
  /** Share of its bounding box that it fills. */
  readonly fullness: number;
}

export interface Judgement {
  readonly decision: 'open' | 'solid';
  readonly certainty: number;
}

/**
 * How an area looks by its shape: above 0 open, below 0 solid, as the logarithm of the odds.
 * The wall decides: the counter of a letter or the inside of a ring is wide beside the stroke round it, a white
 * detail on a plate is narrow beside the plate, and a long thin line within wider parts was most likely painted.
 */
export function scoreArea(shape: AreaShape): number {
  const ratio = shape.halfWidth / Math.max(1, shape.wall);
  const length = shape.areaPx / (4 * shape.halfWidth * shape.halfWidth);
  // Even at 0.3, where small bold counters and eyes meet.
  return 1.6 * Math.log(Math.max(1e-3, ratio) / 0.3) + 1.2 * (shape.wallIsOuter - 0.3) - (ratio < 0.5 ? 0.5 * Math.min(1, Math.max(0, (length - 6) / 10)) : 0);
}

/**
 * Open or solid, from colour first and shape second: a colour of its own says solid.
 * @param score  the area's own `scoreArea`, or what it and those that belong with it come to together
 */
export function judgeArea(shape: AreaShape, score = scoreArea(shape)): Judgement {
  if (shape.isPale) return { decision: 'solid', certainty: Math.min(1, 0.7 + shape.offset / 100) };
  const open = 1 / (1 + Math.exp(-score));
  return open >= 0.5 ? { decision: 'open', certainty: open } : { decision: 'solid', certainty: 1 - open };
}

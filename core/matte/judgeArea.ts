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
 * Open or solid, from colour first and shape second.
 * A colour of its own says solid. Otherwise the wall decides: the counter of a letter or the inside of a ring is
 * wide beside the stroke round it, a white detail on a plate is narrow beside the plate.
 */
export function judgeArea(shape: AreaShape): Judgement {
  if (shape.isPale) return { decision: 'solid', certainty: Math.min(1, 0.7 + shape.offset / 100) };
  const ratio = shape.halfWidth / Math.max(1, shape.wall);
  // Logistic in the logarithm of the ratio; even at 0.3, where small bold counters and eyes meet.
  const score = 1.6 * Math.log(Math.max(1e-3, ratio) / 0.3) + 1.2 * (shape.wallIsOuter - 0.3);
  const open = 1 / (1 + Math.exp(-score));
  return open >= 0.5 ? { decision: 'open', certainty: open } : { decision: 'solid', certainty: 1 - open };
}

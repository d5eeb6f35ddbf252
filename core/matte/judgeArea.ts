/** The regression's constant and weights. */
const CONSTANT = 2.6;
const WALL_WEIGHT = 1.9;
const BODY_WEIGHT = 2.7;
const OUTER_WALL_WEIGHT = 1.1;
/** A colour of its own is this certain at least, and surer by a hundredth for each level it is off the ground. */
const PALE_CERTAINTY = 0.7;

/** What is measured of an enclosed area, in pixels of the picture it was found in. */
export interface AreaShape {
  readonly areaPx: number;
  /** Twice the area over the length of its rim: the width of a long area, the radius of a round one, or so. */
  readonly halfWidth: number;
  /** Thickness of what surrounds it, up to the next open ground: the geometric mean over all directions. */
  readonly wall: number;
  /** Width of the piece of the mark that it lies in, measured as its own is. */
  readonly body: number;
  /** Share of the directions in which the outside ground lies right behind that wall. */
  readonly wallIsOuter: number;
  /** Flat, near to the ground's colour, but not the same. */
  readonly isPale: boolean;
  /** Mean distance from the ground's colour, code values. */
  readonly offset: number;
  /** Share of its rim within three pixels of the outside ground. */
  readonly touchesOutside: number;
}

export interface Judgement {
  readonly decision: 'open' | 'solid';
  readonly certainty: number;
}

/** Every edge is blurred over about two pixels, and the half that is the area's counts as mark when it is found. */
const EDGE = 1;

/**
 * How an area looks by its shape: above 0 open, below 0 solid, as the logarithm of the odds.
 * The counter of a letter or the inside of a ring is wide beside the stroke round it; a white detail on a plate is
 * narrow beside the plate, even where it comes close to the plate's edge.
 * The weights are those of a logistic regression on the enclosed areas of drawn test logos (docs/adr/0008).
 */
export function scoreArea({ halfWidth, wall, body, wallIsOuter }: AreaShape): number {
  const against = (thickness: number) =>
    Math.max(-3, Math.min(3, Math.log((halfWidth + EDGE) / Math.max(1, thickness))));
  return (
    CONSTANT +
    WALL_WEIGHT * against(wall - 2 * EDGE) +
    BODY_WEIGHT * against(body - EDGE) +
    OUTER_WALL_WEIGHT * wallIsOuter
  );
}

/**
 * Open or solid, from colour first and shape second: a colour of its own says solid.
 * @param score  the area's own `scoreArea`, or what it and those that belong with it come to together
 */
export function judgeArea(shape: AreaShape, score = scoreArea(shape)): Judgement {
  if (shape.isPale) return { decision: 'solid', certainty: Math.min(1, PALE_CERTAINTY + shape.offset / 100) };
  const open = 1 / (1 + Math.exp(-score));
  return open >= 0.5 ? { decision: 'open', certainty: open } : { decision: 'solid', certainty: 1 - open };
}

import type { StageContext } from '../../core/stages/stage';

/** A stage by itself: nothing listens, nothing is cut short, nothing was cut out before. */
export const plainContext: StageContext = {
  onStep: () => {},
  pictureOnly: false,
  listsAll: false,
  consumes: false,
  shouldStop: () => false,
  cut: null,
};

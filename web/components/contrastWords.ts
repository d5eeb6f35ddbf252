import { LEAST_RATIO, type Standing } from '../../core/contrast/standing';

/** What is shown of how a mark stands on a ground. */
export type Shown = Pick<Standing, 'ratio' | 'shareAbove3'>;

/** Less of an outline than this stands out: the mark is hard to make out, or lost. */
const GOOD_SHARE = 0.75;
const LOST_SHARE = 0.25;
const LOST_RATIO = 1.5;

/**
 * What a contrast means for a mark on a ground. Below 3 : 1 graphics are hard to make out (WCAG 2.2, 1.4.11); on a
 * photo that is asked of most of the outline.
 */
export function contrastWords(standing: Shown | undefined, isPhoto = false): { text: string; isWeak: boolean } {
  if (standing === undefined) return { text: '', isWeak: false };
  const { ratio, shareAbove3 } = standing;
  const isLost = isPhoto ? shareAbove3 < LOST_SHARE : ratio < LOST_RATIO;
  const isWeak = isPhoto ? shareAbove3 < GOOD_SHARE : ratio < LEAST_RATIO;
  const number = isPhoto ? `${Math.round(shareAbove3 * 100)} %` : `${ratio.toFixed(1)} : 1`;
  return { text: `${number}${isLost ? ', lost' : isWeak ? ', weak' : ''}`, isWeak };
}

import { type EnclosedArea, UNSURE_BELOW } from '../core/matte/enclosedAreas';

/** What was decided of the enclosed areas of one picture, beside the truth. */
export interface AreaScore {
  readonly areas: number;
  readonly wrong: number;
  /** Wrong, and not put to the person. */
  readonly wrongAndSure: number;
  /** What the person is asked: groups with an unsure area. */
  readonly questions: number;
}

/** Areas of fewer pixels are pinholes that nobody looks at. */
const LEAST_COUNTED = 12;

/**
 * @param kinds  as `enclosedTruth` gives them: 1 open, 2 solid; areas on anything else are not counted
 */
export function scoreAreas(areas: readonly EnclosedArea[], kinds: Uint8Array, width: number): AreaScore {
  const isUnsure = (a: EnclosedArea) => a.certainty < UNSURE_BELOW;
  const counted = areas.filter((a) => a.areaPx >= LEAST_COUNTED && kinds[a.y * width + a.x] !== 0);
  const wrong = counted.filter((a) => (kinds[a.y * width + a.x] === 1) !== (a.decision === 'open'));
  return {
    areas: counted.length,
    wrong: wrong.length,
    wrongAndSure: wrong.filter((a) => !isUnsure(a)).length,
    questions: new Set(areas.filter(isUnsure).map((a) => a.group)).size,
  };
}

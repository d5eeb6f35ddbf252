import { isCoreError } from '../errors';
import type { Way } from '../inspect/inspectPicture';
import { type Artwork, artworkOfRaster } from '../artwork/artwork';
import type { Raster } from '../raster/raster';
import type { StageValues } from '../stages';
import { marksOf } from '../stages/cutOutFacts';
import { type Recipe, initialRecipe } from './recipe';
import { type MasterResult, cutOutFacts, runStages } from './runRecipe';
import { takeMark } from './takeMark';

export interface Proposal {
  readonly recipe: Recipe;
  /**
   * What its way of cutting out makes of the whole picture; null where neither ground nor ink was found and the picture
   * stays as it is.
   */
  readonly result: MasterResult | null;
  /** Separate signatures on the sheet. */
  readonly markCount: number;
}

type CutOutWay = StageValues['cutOut']['way'];

/** The way to cut out a picture of a kind: what is transparent, or of one colour, keeps its pixels. */
export const cutOutWayOf = (found: Way): CutOutWay =>
  found === 'transparent' || found === 'opaque' ? 'keep' : found === 'paper' ? 'paper' : 'flat';

/**
 * The recipe to start with, by what the picture was found to be. One signature alone is cropped and set level.
 * @param picture    or drawing, reduced as it may be
 * @param reduction  full size over a picture's size
 */
export function proposeRecipe(picture: Raster | Artwork, reduction: number, found: Way): Proposal {
  const source = 'raster' in picture ? picture : artworkOfRaster(picture, reduction);
  const first = cutOutWayOf(found);
  const ways: CutOutWay[] = first === 'keep' ? [first] : first === 'paper' ? ['paper', 'flat'] : ['flat', 'paper'];
  const base = initialRecipe();
  const withWay = (way: CutOutWay): Recipe => ({
    ...base,
    stages: { ...base.stages, cutOut: { ...base.stages.cutOut, way } },
  });
  const run = (recipe: Recipe) => runStages(source, recipe.stages, { pictureKey: 'proposal' });
  for (const way of ways) {
    const recipe = withWay(way);
    try {
      const result = run(recipe);
      const marks = marksOf(cutOutFacts(result));
      if (marks.length !== 1) return { recipe, result, markCount: marks.length };
      const taken = {
        ...recipe,
        stages: takeMark(recipe.stages, marks[0], {
          width: source.raster.width * source.reduction,
          height: source.raster.height * source.reduction,
        }),
      };
      // What was measured on the sheet holds for the one mark on it: cropping and turning come free.
      return { recipe: taken, result, markCount: 1 };
    } catch (error) {
      if (!isCoreError(error) || !error.code.startsWith('cutout/no-')) throw error;
    }
  }
  return { recipe: withWay('keep'), result: null, markCount: 0 };
}

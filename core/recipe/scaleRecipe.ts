import type { Point } from '../geometry/projective';
import { type Edit, isStroke } from '../tidy/edits';
import type { Recipe } from './recipe';

/**
 * The same recipe for the same mark on a picture of another size: every place and length that it names is carried over.
 * @param across down  how many times wider and higher the new picture is
 */
export function scaleRecipe(recipe: Recipe, across: number, down: number): Recipe {
  if (across === 1 && down === 1) return recipe;
  const { crop, cutOut, tidy, trace } = recipe.stages;
  const place = <P extends Point>(p: P): P => ({ ...p, x: p.x * across, y: p.y * down });
  const mean = Math.sqrt(across * down);
  const loop = (points: readonly number[]) => points.map((v, k) => v * (k % 2 === 0 ? across : down));
  const edit = (e: Edit): Edit =>
    isStroke(e)
      ? {
          ...e,
          size: e.size * mean,
          points: e.points.map((v, k) => (k % 3 === 2 ? v : v * (k % 3 === 0 ? across : down))),
        }
      : { ...e, points: loop(e.points) };
  const { rect, corners } = crop;
  return {
    ...recipe,
    stages: {
      ...recipe.stages,
      crop: {
        ...crop,
        rect: rect && {
          ...place(rect),
          width: Math.max(1, rect.width * across),
          height: Math.max(1, rect.height * down),
        },
        corners: corners && [place(corners[0]), place(corners[1]), place(corners[2]), place(corners[3])],
      },
      cutOut: { ...cutOut, areas: cutOut.areas.map(place), mark: cutOut.mark && place(cutOut.mark) },
      tidy: {
        ...tidy,
        specksBelow: Math.min(100_000, Math.round(tidy.specksBelow * across * down)),
        drop: tidy.drop.map(place),
        keep: tidy.keep.map(place),
        outside: tidy.outside.map(loop),
        edits: tidy.edits.map(edit),
      },
      trace: { ...trace, pieces: trace.pieces.map(place) },
    },
  };
}

import { checkFile, decodePicture } from '../codecs/decodePicture';
import { readSvg } from '../codecs/readSvg';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { proposeRecipe } from '../core/recipe/proposeRecipe';
import { type Recipe, initialRecipe } from '../core/recipe/recipe';

/** A file as what stages start from. @throws CoreError 'intake/…' naming the file */
export async function openSource(bytes: Uint8Array, name: string): Promise<Artwork> {
  const isDrawing = checkFile(bytes, name).id === 'svg';
  return isDrawing
    ? artworkOfDrawing(readSvg(bytes, name))
    : artworkOfRaster((await decodePicture(bytes, name)).raster);
}

/** The recipe that the program would start with. */
export function proposedFor(source: Artwork): Recipe {
  if (source.drawing) return keeping(initialRecipe());
  return proposeRecipe(source, 1, inspectPicture(source.raster).way).recipe;
}

const keeping = (recipe: Recipe): Recipe => ({
  ...recipe,
  stages: { ...recipe.stages, cutOut: { ...recipe.stages.cutOut, way: 'keep' } },
});

import { basename } from 'node:path';
import { checkFile, decodePicture } from '../codecs/decodePicture';
import { openSvg, readSvg } from '../codecs/readSvg';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { LEAST_SHARE } from '../core/matte/cutOutFlat';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { proposeRecipe } from '../core/recipe/proposeRecipe';
import { PX_PER_MM } from '../core/decoration';
import { type Recipe, type Variant, initialRecipe } from '../core/recipe/recipe';
import { makeVariant } from '../core/recipe/runRecipe';
import { readInput } from './command';

/** A file as what stages start from. @throws CoreError 'intake/…' naming the file */
export async function openSource(bytes: Uint8Array, name: string): Promise<Artwork> {
  const isDrawing = checkFile(bytes, name).id === 'svg';
  return isDrawing
    ? artworkOfDrawing(readSvg(bytes, name))
    : artworkOfRaster((await decodePicture(bytes, name)).raster);
}

/** A file as the master that variants are made of. */
export interface OpenMaster {
  readonly source: Artwork;
  readonly recipe: Recipe;
  /** Pixels of the source per unit of the file's own grid: more than 1 for drawings of small units. */
  readonly scale: number;
}

/**
 * A PNG with alpha or an SVG as it is; any other picture is cut out first.
 * @param takesPhotos  a picture whose border shows no ground at all is laid as it is
 * @throws CoreError 'intake/…' naming it
 */
export async function openMaster(path: string, { takesPhotos = false } = {}): Promise<OpenMaster> {
  const name = basename(path);
  const bytes = readInput(path);
  if (checkFile(bytes, name).id === 'svg') {
    const { drawing, scale } = openSvg(bytes, name);
    return { source: artworkOfDrawing(drawing), recipe: keeping(initialRecipe()), scale };
  }
  const source = artworkOfRaster((await decodePicture(bytes, name)).raster);
  const { way, share } = inspectPicture(source.raster);
  const isMaster = way === 'transparent' || (takesPhotos && way === 'flat' && share < LEAST_SHARE);
  return { source, recipe: isMaster ? keeping(initialRecipe()) : proposedFor(source), scale: 1 };
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

/** The same master as outlines of one colour, where it is made of pixels. */
export const traced = ({ recipe, ...master }: OpenMaster): OpenMaster => ({
  ...master,
  recipe: master.source.drawing
    ? recipe
    : { ...recipe, stages: { ...recipe.stages, trace: { ...recipe.stages.trace, use: 'all', colours: 1 } } },
});

/** A variant of an open master, its lengths in the file's own units. */
export const drawVariant = ({ source, recipe, scale }: OpenMaster, variant: Variant, name: string): Artwork =>
  makeVariant(
    source,
    recipe,
    variant,
    { pictureKey: name, pictureOnly: true },
    {
      ...{ palette: [] },
      pxLength: scale,
      mmLength: PX_PER_MM * scale,
    },
  );

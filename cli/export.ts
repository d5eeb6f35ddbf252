import { basename } from 'node:path';
import { checkFile, decodePicture } from '../codecs/decodePicture';
import { readSvg } from '../codecs/readSvg';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { CoreError } from '../core/errors';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { proposeRecipe } from '../core/recipe/proposeRecipe';
import { type Recipe, initialRecipe } from '../core/recipe/recipe';
import { runStages } from '../core/recipe/runRecipe';
import { type Command, naming, readArguments, readInput } from './command';
import { loadRecipe } from './cutoutRecipe';
import { readSize, sizeHelp, sizeOptions } from './sizeOptions';
import { formatOf, outName, writeFile } from './writeFile';

const help = `tassel export FILE --out ${outName} [options]

Writes one file of one mark, exactly round what is visible. A picture is cut out
first; a drawing (SVG of filled paths) stays paths, and a PNG of it is drawn from
the paths at the very size. The file is read back and checked.

${sizeHelp}
  --recipe R.json        the recipe to make the master by

Without a size the file has the mark's own.`;

export const exportFile: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      out: { type: 'string' },
      recipe: { type: 'string' },
      ...sizeOptions,
    });
    if (positionals.length !== 1) throw new CoreError('cli/usage', `export takes one file, got ${positionals.length}.`);
    if (typeof values.out !== 'string') throw new CoreError('cli/usage', 'export needs --out.');
    const size = readSize(values);
    formatOf(values.out);
    const path = positionals[0];
    const master = await masterOf(path, typeof values.recipe === 'string' ? loadRecipe(values.recipe) : null);
    await naming(basename(path), () => writeFile(values.out as string, master, size));
    return 0;
  },
};

async function masterOf(path: string, recipe: Recipe | null): Promise<Artwork> {
  const name = basename(path);
  const bytes = readInput(path);
  const isDrawing = checkFile(bytes, name).id === 'svg';
  const source = isDrawing
    ? artworkOfDrawing(readSvg(bytes, name))
    : artworkOfRaster((await decodePicture(bytes, name)).raster);
  return naming(name, async () => {
    const used = recipe ?? (isDrawing ? keeping(initialRecipe()) : propose(source));
    return runStages(source, used.stages, { pictureKey: name, pictureOnly: true }).master;
  });
}

const propose = (source: Artwork): Recipe => proposeRecipe(source, 1, inspectPicture(source.raster).way).recipe;

const keeping = (recipe: Recipe): Recipe => ({
  ...recipe,
  stages: { ...recipe.stages, cutOut: { ...recipe.stages.cutOut, way: 'keep' } },
});

import { basename } from 'node:path';
import type { Artwork } from '../core/artwork/artwork';
import { CoreError } from '../core/errors';
import type { Recipe } from '../core/recipe/recipe';
import { runStages } from '../core/recipe/runRecipe';
import { type Command, naming, readArguments, readInput } from './command';
import { loadRecipe } from './cutoutRecipe';
import { openSource, proposedFor } from './masterOf';
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
  const source = await openSource(readInput(path), name);
  return naming(name, async () => {
    const used = recipe ?? proposedFor(source);
    return runStages(source, used.stages, { pictureKey: name, pictureOnly: true }).master;
  });
}

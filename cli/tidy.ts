import { basename } from 'node:path';
import { encodePng } from '../codecs/encodePng';
import { readBackPng } from '../codecs/readBackPng';
import { CoreError } from '../core/errors';
import { type Point, invertProjective } from '../core/geometry/projective';
import { bleedColours } from '../core/raster/bleedColours';
import { isVisible } from '../core/raster/extents';
import type { Recipe } from '../core/recipe/recipe';
import { runStages } from '../core/recipe/runRecipe';
import { createStageCache } from '../core/recipe/stageCache';
import { MOST_SPECK_PX } from '../core/stages/tidy';
import type { TidyFacts } from '../core/stages/tidyFacts';
import { colourBeside } from '../core/tidy/colourBeside';
import type { Edit } from '../core/tidy/edits';
import { type Command, namingNow, readArguments, readInput, readNumber, writeWhole } from './command';
import { loadRecipe } from './cutoutRecipe';
import { openSource, proposedFor } from './masterOf';
import { readColour } from './settingOptions';

const help = `tassel tidy FILE --out OUT.png [options]

Drops specks and pieces, cuts along outlines and covers areas. A picture with a
ground is cut out first. Places are in the picture's own pixels, and the PNG keeps
the picture's grid. The file is read back and checked.

  --specks-below AREA    pieces of less area go, in px: 0..${MOST_SPECK_PX}
  --drop X,Y …           the pieces at these places go
  --keep X,Y …           the pieces at these places stay, however small
  --outside "X,Y X,Y …"  what lies beyond this outline goes, pixel by pixel; of
                         several outlines, what lies beyond all of them
  --cover "X,Y …:#hex"   covers an outline with a colour; :clear takes it away,
                         :beside takes the colour beside it. Any number of times
  --recipe R.json        the recipe to make the master by
  --save-recipe OUT.json writes the recipe used
  --json                 prints every piece with what became of it (kept, speck,
                         dropped, outside, erased), their numbers and the extents`;

export const tidy: Command = {
  help,
  async run(argv) {
    const { words, places } = takePlaces(argv);
    const { values, positionals } = readArguments(words, {
      out: { type: 'string' },
      'specks-below': { type: 'string' },
      outside: { type: 'string', multiple: true },
      cover: { type: 'string', multiple: true },
      recipe: { type: 'string' },
      'save-recipe': { type: 'string' },
      json: { type: 'boolean' },
    });
    if (positionals.length !== 1) throw new CoreError('cli/usage', `tidy takes one file, got ${positionals.length}.`);
    if (!values.out) throw new CoreError('cli/usage', 'tidy needs --out.');
    if (!/\.png$/i.test(values.out)) throw new CoreError('cli/usage', `--out takes a name that ends in .png.`);
    const specks = values['specks-below'];
    const specksBelow = specks === undefined ? null : readNumber(specks, 'specks-below', 0, MOST_SPECK_PX);
    const outside = (values.outside ?? []).map((text) => readLoop(text, 'outside'));
    const covers = (values.cover ?? []).map(readCover);

    const name = basename(positionals[0]);
    const source = await openSource(readInput(positionals[0]), name);
    const base = values.recipe ? loadRecipe(values.recipe) : proposedFor(source);
    // Colours beside covers are looked for on the way: what is cut out once need not be again.
    const cache = createStageCache();
    const run = (recipe: Recipe) =>
      namingNow(name, () => runStages(source, recipe.stages, { pictureKey: name, cache, listsAll: values.json }));
    const edits: Edit[] = [...base.stages.tidy.edits];
    // What lies beside an outline is seen once everything before it is done.
    for (const { points, colour } of covers) {
      edits.push({ kind: 'cover', points, colour: colour === 'beside' ? besideOf(points) : colour });
    }
    function besideOf(points: readonly number[]): string {
      const { master } = run(withTidy(base, { edits: [...edits] }));
      const found = colourBeside(master.raster, points, invertProjective(master.toWorking));
      if (!found)
        throw new CoreError('cli/usage', `--cover: nothing solid lies beside the outline ${points.join(',')}.`);
      return found;
    }
    const own = base.stages.tidy;
    const recipe = withTidy(base, {
      edits,
      specksBelow: specksBelow ?? own.specksBelow,
      drop: [...own.drop, ...places.drop],
      keep: [...own.keep, ...places.keep],
      outside: [...own.outside, ...outside],
    });
    const result = run(recipe);
    const { raster, within } = result.master;
    if (!isVisible(raster, undefined, within)) throw new CoreError('cutout/nothing-left', `${name}: nothing is left.`);
    const picture = bleedColours({ ...raster, data: raster.data.slice() }, within);
    const bytes = await encodePng(picture);
    readBackPng(bytes, picture, values.out);
    writeWhole(values.out, bytes);
    if (values['save-recipe']) writeWhole(values['save-recipe'], `${JSON.stringify(recipe, null, 2)}\n`);
    if (values.json) console.log(JSON.stringify(reportOf(result.perStage.tidy.facts as TidyFacts), null, 2));
    return 0;
  },
};

const withTidy = (recipe: Recipe, change: Partial<Recipe['stages']['tidy']>): Recipe => ({
  ...recipe,
  stages: { ...recipe.stages, tidy: { ...recipe.stages.tidy, ...change } },
});

function reportOf({ pieces, gone, extents, proposal }: TidyFacts) {
  const all = [...pieces, ...gone].sort((a, b) => b.areaPx - a.areaPx);
  const counts = { kept: 0, speck: 0, dropped: 0, outside: 0, erased: 0 };
  for (const { treatment } of all) counts[treatment]++;
  return {
    pieces: all.map(({ x, y, areaPx, dropped, distancePx, peak, treatment }) => ({
      ...{ x, y, areaPx, dropped, treatment, distancePx, peak },
    })),
    pieceCount: all.length,
    counts,
    extents,
    proposedLimit: proposal.limit,
  };
}

const PLACE = /^-?[\d.]+,-?[\d.]+$/;

/** `--drop` and `--keep` take any number of places, which node's own parser does not know. */
function takePlaces(argv: readonly string[]) {
  const words: string[] = [];
  const places = { drop: [] as Point[], keep: [] as Point[] };
  let taking: 'drop' | 'keep' | null = null;
  for (const word of argv) {
    const inline = /^--(drop|keep)(?:=(.*))?$/.exec(word);
    if (inline) taking = inline[1] as 'drop' | 'keep';
    const texts = (inline ? (inline[2] ?? '') : word).split(/\s+/).filter(Boolean);
    const arePlaces = taking !== null && texts.length > 0 && texts.every((text) => PLACE.test(text));
    if (taking && arePlaces) places[taking].push(...texts.map((text) => readPlace(text, taking as string)));
    else if (!inline) {
      if (taking && places[taking].length === 0)
        throw new CoreError('cli/usage', `--${taking} takes places such as 120,80, got "${word}".`);
      taking = null;
      words.push(word);
    } else if (inline[2])
      throw new CoreError('cli/usage', `--${inline[1]} takes places such as 120,80, got "${inline[2]}".`);
  }
  return { words, places };
}

function readPlace(text: string, option: string): Point {
  const [x, y] = text.split(',').map(Number);
  if (!Number.isFinite(x) || !Number.isFinite(y))
    throw new CoreError('cli/usage', `--${option} takes places such as 120,80, got "${text}".`);
  return { x, y };
}

function readLoop(text: string, option: string): number[] {
  const words = text.trim().split(/\s+/);
  if (words.length < 3 || !words.every((word) => PLACE.test(word)))
    throw new CoreError(
      'cli/usage',
      `--${option} takes at least three points such as "10,10 90,10 50,80", got "${text}".`,
    );
  return words.flatMap((word) => {
    const { x, y } = readPlace(word, option);
    return [x, y];
  });
}

function readCover(text: string): { points: number[]; colour: string | null | 'beside' } {
  const at = text.lastIndexOf(':');
  if (at < 0) throw new CoreError('cli/usage', `--cover takes "X,Y X,Y X,Y:#hex", got "${text}".`);
  const word = text.slice(at + 1).trim();
  const colour = word === 'clear' ? null : word === 'beside' ? word : readColour(word, 'cover');
  return { points: readLoop(text.slice(0, at), 'cover'), colour };
}

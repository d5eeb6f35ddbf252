import { mkdirSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { basename, join } from 'node:path';
import { formatHost } from '../codecs/formatHost';
import { readBack } from '../codecs/readBack';
import type { Artwork } from '../core/artwork/artwork';
import { CoreError } from '../core/errors';
import { formats } from '../core/formats';
import type { FileReceipt } from '../core/formats/receipt';
import { uniqueNames } from '../core/recipe/fileNames';
import { treated } from '../core/recipe/fileOrder';
import { makeFile } from '../core/recipe/makeFile';
import { type PlannedFile, planFiles } from '../core/recipe/planFiles';
import {
  type Recipe,
  type SizeLine,
  type Variant,
  initialVariants,
  readRecipe,
  readVariant,
} from '../core/recipe/recipe';
import { makeVariant } from '../core/recipe/runRecipe';
import { createStageCache } from '../core/recipe/stageCache';
import { type Command, naming, readArguments, readInput, writeWhole } from './command';
import { loadRecipe } from './cutoutRecipe';
import { openSource, proposedFor } from './masterOf';
import { type Plan, type PlanMark, readPlan } from './readPlan';

const help = `tassel make PLAN.json --out FOLDER [options]

Makes all files of a plan, each read back and checked by a reader of its own before
any of them is written. Paths in the plan are relative to it:

  { "marks": [{ "name", "original": PATH, "recipe"?: PATH or one }],
    "lines": [{ "mark"?: NAME, "variant": "colour", "black", "reversed" or a definition,
                "size": { "id", "params" }, "format": { "id", "params" },
                "purpose"?: ID, "name"?: NAME }],
    "brand"?, "pattern"? }

A line without a mark is for all of them. docs/reference/settings.md tells every size,
format and purpose.

  --json   prints the receipt of every file, a list`;

export const make: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, { out: { type: 'string' }, json: { type: 'boolean' } });
    if (positionals.length !== 1) throw new CoreError('cli/usage', `make takes one plan, got ${positionals.length}.`);
    if (!values.out) throw new CoreError('cli/usage', 'make needs --out.');
    const plan = readPlan(positionals[0]);
    const ready: MadeFile[] = [];
    // All are made before the first is written, so that what is refused leaves nothing half done.
    for (const mark of plan.marks) ready.push(...(await naming(mark.name, () => makeAll(mark, plan))));
    const names = namesOf(ready);
    mkdirSync(values.out, { recursive: true });
    ready.forEach(({ bytes }, k) => writeWhole(join(values.out as string, names[k]), bytes));
    const report = ready.map(({ mark, variant, receipt }, k) => ({ file: names[k], mark, variant, ...receipt }));
    if (values.json) console.log(JSON.stringify(report, null, 2));
    for (const { file, enlargement } of report)
      if (enlargement > 1.01) console.error(`tassel: ${file} is enlarged ${enlargement.toFixed(1)} times.`);
    return 0;
  },
};

interface MadeFile {
  readonly mark: string;
  readonly variant: string;
  readonly name: string;
  /** Whether somebody dictates its name. */
  readonly isExact: boolean;
  readonly bytes: Uint8Array;
  readonly receipt: FileReceipt;
}

/** @throws CoreError 'names/clash' when two files are to have one name that somebody dictates */
function namesOf(files: readonly MadeFile[]): string[] {
  const taken = new Map<string, MadeFile>();
  for (const file of files) {
    const key = file.name.toLowerCase();
    const other = taken.get(key);
    if (other && (other.isExact || file.isExact)) {
      const both = `${other.variant} of ${other.mark} and ${file.variant} of ${file.mark}`;
      throw new CoreError('names/clash', `Two files would be called "${file.name}": ${both}. Name one of them anew.`);
    }
    taken.set(key, file);
  }
  return uniqueNames(files.map((f) => f.name));
}

async function makeAll(mark: PlanMark, plan: Plan): Promise<MadeFile[]> {
  const name = basename(mark.original);
  const source = await openSource(readInput(mark.original), name);
  const recipe = recipeOf(mark) ?? proposedFor(source);
  const { variants, lines } = linesOf(mark, plan, recipe);
  const names = { brand: plan.brand, mark: mark.name, date: new Date().toISOString().slice(0, 10), version: 1 };
  const files = planFiles({ variants, files: { pattern: plan.pattern, lines } }, names);
  const cache = createStageCache(CACHE_BYTES);
  const drawn = new Map<string, Artwork>();
  const draw = ({ order, variant }: PlannedFile): Artwork => {
    const own = treated(variant, order);
    const asPaths = formats.get(order.format.id).accepts === 'paths';
    const key = JSON.stringify([own.fill, own.surrounds, own.casts, asPaths]);
    const known =
      drawn.get(key) ?? makeVariant(source, recipe, own, { pictureKey: name, pictureOnly: true, cache, asPaths });
    drawn.set(key, known);
    return known;
  };
  return inTurns(files, async (file) => {
    const what = `${file.variant.name}, ${formats.get(file.order.format.id).title}`;
    return naming(`${mark.name}, ${what}`, async () => {
      const made = await makeFile(draw(file), file.order, formatHost);
      const { widthPx, heightPx, ppi } = made.content;
      const own = file.name({ width: Math.round(widthPx), height: Math.round(heightPx), ppi });
      const receipt = await readBack(made.bytes, made, file.order.format, own);
      const isExact = file.line.name !== undefined;
      return { mark: mark.name, variant: file.variant.name, name: own, isExact, bytes: made.bytes, receipt };
    });
  });
}

const CACHE_BYTES = 512 * 1024 * 1024;

/** Encoding runs beside computing, so many files at a time. */
async function inTurns<A, B>(list: readonly A[], work: (one: A) => Promise<B>): Promise<B[]> {
  const results = new Array<B>(list.length);
  let next = 0;
  const turn = async () => {
    while (next < list.length) {
      const k = next++;
      results[k] = await work(list[k]);
    }
  };
  await Promise.all(Array.from({ length: Math.min(list.length, availableParallelism()) }, turn));
  return results;
}

const recipeOf = ({ recipe }: PlanMark): Recipe | null =>
  recipe === undefined ? null : typeof recipe === 'string' ? loadRecipe(recipe) : readRecipe(recipe);

/** A plan's lines for one mark as size lines, with the variants that they name. */
function linesOf(mark: PlanMark, plan: Plan, recipe: Recipe): { variants: Variant[]; lines: SizeLine[] } {
  const variants: Variant[] = [];
  const lines = plan.lines.flatMap((line, k): SizeLine[] => {
    if (line.mark !== undefined && line.mark !== mark.name) return [];
    const id = `line-${k}`;
    variants.push({ ...variantOf(line.variant, recipe, `lines[${k}].variant`), id });
    const { size, format, purpose, name } = line;
    const own = name === undefined ? {} : { name };
    return [{ id, variant: id, purpose: purpose.id, purposeParams: purpose.params, size, format, ...own }];
  });
  return { variants, lines };
}

/** @throws CoreError 'cli/usage' naming the variants that there are */
function variantOf(given: string | object, recipe: Recipe, where: string): Variant {
  if (typeof given !== 'string') return readVariant(given, where);
  const known = [...recipe.variants, ...initialVariants()];
  const word = given.toLowerCase();
  const found = known.find((v) => v.id.toLowerCase() === word) ?? known.find((v) => v.name.toLowerCase() === word);
  if (found) return found;
  const names = [...new Set(known.map((v) => v.name.toLowerCase()))].join(', ');
  throw new CoreError('cli/usage', `${where}: there is no variant "${given}"; there are ${names}.`);
}

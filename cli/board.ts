import { basename, dirname, resolve } from 'node:path';
import * as yup from 'yup';
import { type BoardGround, boardPdf, boardPng } from '../codecs/board';
import { lookAt } from '../codecs/check/lookAt';
import { decodePicture } from '../codecs/decodePicture';
import { CoreError } from '../core/errors';
import { readVariant } from '../core/recipe/recipe';
import { type Command, naming, readArguments, writeWhole } from './command';
import { readGround } from './contrast';
import { drawVariant, openMaster } from './masterOf';
import { readJsonFile } from './readJsonFile';

const MOST_CELLS = 240;

const help = `tassel board PLAN.json --out OUT.png|pdf [options]

One picture of variants on grounds, with names and contrast, to be shown. A PDF keeps
paths as paths. Paths in the plan are relative to it.

PLAN: { "master": path, "variants": [definition, …], "grounds": ["#hex" or photo, …],
        "columns": cells side by side, as many as grounds without it }

  --json   prints each cell with its variant, ground and contrast`;

const planSchema = yup
  .object({
    master: yup.string().required('a plan names its master'),
    variants: yup.array().of(yup.object().required()).min(1, 'a plan has at least one variant').required(),
    grounds: yup.array().of(yup.string().required()).min(1, 'a plan has at least one ground').required(),
    columns: yup.number().integer().min(1).max(40),
  })
  .noUnknown();

export const board: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, { out: { type: 'string' }, json: { type: 'boolean' } });
    if (positionals.length !== 1) throw new CoreError('cli/usage', `board takes one plan, got ${positionals.length}.`);
    const kind = /\.(png|pdf)$/i.exec(values.out ?? '')?.[1].toLowerCase();
    if (!values.out || !kind)
      throw new CoreError('cli/usage', 'board needs --out with a name that ends in .png or .pdf.');
    const path = positionals[0];
    const plan = await readPlan(path);
    const beside = (file: string) => resolve(dirname(path), file);
    const definitions = plan.variants.map((v, k) => readVariant(v, `${basename(path)}: variants[${k}]`));
    const grounds: BoardGround[] = [];
    for (const ground of plan.grounds) {
      const isColour = ground.startsWith('#');
      const value = await readGround(isColour ? ground : beside(ground));
      grounds.push({ name: isColour ? ground.toUpperCase() : basename(ground).replace(/\.[a-z0-9]+$/i, ''), value });
    }
    const master = await openMaster(beside(plan.master));
    const name = basename(plan.master);
    const variants = await naming(name, async () =>
      definitions.map((definition) => ({
        name: definition.name,
        artwork: drawVariant(master, definition, name),
      })),
    );
    const make = kind === 'pdf' ? boardPdf : boardPng;
    const made = await naming(name, () => make({ variants, grounds, columns: plan.columns ?? null }));
    if (kind === 'pdf') await lookAt(made.bytes, values.out);
    else await decodePicture(made.bytes, basename(values.out));
    writeWhole(values.out, made.bytes);
    if (values.json) {
      const cells = made.standings.map(({ ratio, shareAbove3 }, k) => ({
        variant: variants[Math.floor(k / grounds.length)].name,
        ground: plan.grounds[k % grounds.length],
        ratio: Math.round(ratio * 100) / 100,
        shareAbove3: Math.round(shareAbove3 * 1000) / 1000,
      }));
      console.log(JSON.stringify(cells, null, 2));
    }
    return 0;
  },
};

async function readPlan(path: string): Promise<yup.InferType<typeof planSchema>> {
  const value = readJsonFile(path);
  try {
    const plan = await planSchema.validate(value, { strict: true });
    if (plan.variants.length * plan.grounds.length > MOST_CELLS)
      throw new Error(`it asks for more than ${MOST_CELLS} cells`);
    return plan;
  } catch (cause) {
    throw new CoreError('recipe/invalid', `${path} is no plan of a board: ${(cause as Error).message}.`, {}, { cause });
  }
}

import { mkdirSync } from 'node:fs';
import { basename, join } from 'node:path';
import { formatHost } from '../codecs/formatHost';
import { readBack } from '../codecs/readBack';
import type { Artwork } from '../core/artwork/artwork';
import { placeDrawing } from '../core/artwork/drawing';
import { renderDrawing } from '../core/artwork/renderDrawing';
import { CoreError } from '../core/errors';
import { fills } from '../core/fills';
import { formats } from '../core/formats';
import { scaling } from '../core/geometry/matrix';
import { invertProjective, project } from '../core/geometry/projective';
import { bleedColours } from '../core/raster/bleedColours';
import { isVisible } from '../core/raster/extents';
import { slug } from '../core/recipe/fileNames';
import { type Variant, partOf, readVariant, variantOf } from '../core/recipe/recipe';
import { pathsEndAt } from '../core/recipe/runRecipe';
import { type Command, naming, readArguments, writeWhole } from './command';
import { type OpenMaster, drawVariant, openMaster } from './masterOf';
import { readJsonFile } from './readJsonFile';

const KNOWN = ['png', 'svg', 'pdf'];

const help = `tassel variants MASTER --out FOLDER [options]

Makes versions of a mark: MASTER is a PNG with alpha or an SVG; any other picture is
cut out first. Each file keeps the master's own grid, larger on all sides by what
surrounds and casts need, and is read back and checked.

  --set LIST             black, reversed, colour, or NAME=#hex for one colour, with
                         commas between; ${'black,reversed,colour'} at first
  --definition F.json    a variant's definition, or a list of them, in place of a set
                         or beside it: { name, fill, surrounds, casts }
  --format png|svg|pdf   png at first; svg and pdf for masters of paths
  --json                 prints each file with its offset: where the master's upper
                         left corner lies in it, px`;

export const variants: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      out: { type: 'string' },
      set: { type: 'string' },
      definition: { type: 'string', multiple: true },
      format: { type: 'string' },
      json: { type: 'boolean' },
    });
    if (positionals.length !== 1)
      throw new CoreError('cli/usage', `variants takes one file, got ${positionals.length}.`);
    if (!values.out) throw new CoreError('cli/usage', 'variants needs --out.');
    const format = values.format ?? 'png';
    if (!KNOWN.includes(format))
      throw new CoreError('cli/usage', `--format takes one of ${KNOWN.join(', ')}, got "${format}".`);
    const defined = (values.definition ?? []).flatMap(readDefinitions);
    const set = values.set ?? (defined.length === 0 ? 'black,reversed,colour' : '');
    const all = [...readSet(set), ...defined];
    if (all.length === 0) throw new CoreError('cli/usage', 'There is no variant to make.');
    const name = basename(positionals[0]);
    const master = await openMaster(positionals[0]);
    const report = [];
    const taken = new Set<string>();
    const ready = [];
    // All are made before the first is written, so that what is refused leaves nothing half done.
    for (const variant of all)
      ready.push(await naming(name, async () => makeOne(master, variant, format, freshName(variant.name, taken))));
    mkdirSync(values.out, { recursive: true });
    for (const { file, bytes, ...rest } of ready) {
      writeWhole(join(values.out, file), bytes);
      report.push({ file, ...rest });
    }
    if (values.json) console.log(JSON.stringify(report, null, 2));
    return 0;
  },
};

function freshName(name: string, taken: Set<string>): string {
  const stem = slug(name) || 'variant';
  let own = stem;
  for (let n = 2; taken.has(own); n++) own = `${stem}-${n}`;
  taken.add(own);
  return own;
}

/** @throws CoreError 'cli/usage' naming what is not known */
export function readSet(text: string): Variant[] {
  return text
    .split(',')
    .map((word) => word.trim())
    .filter((word) => word !== '')
    .map((word) => {
      const [name, hex] = word.split('=');
      if (hex !== undefined) {
        if (!/^#[0-9a-f]{6}$/i.test(hex))
          throw new CoreError('cli/usage', `--set takes colours such as colour=#1a2b3c, got "${word}".`);
        return variantOf(name, name, partOf(fills, 'oneColour', { colour: hex.toLowerCase() }));
      }
      if (name === 'colour') return variantOf(name, name, partOf(fills, 'asIs'));
      if (name === 'black') return variantOf(name, name, partOf(fills, 'oneColour', { colour: '#000000' }));
      if (name === 'reversed') return variantOf(name, name, partOf(fills, 'oneColour', { colour: '#ffffff' }));
      throw new CoreError('cli/usage', `--set takes black, reversed, colour or NAME=#hex, got "${word}".`);
    });
}

function readDefinitions(path: string): Variant[] {
  const value = readJsonFile(path);
  const list = Array.isArray(value) ? value : [value];
  return list.map((one, k) => readVariant(one, list.length > 1 ? `${path}[${k}]` : path));
}

async function makeOne(master: OpenMaster, variant: Variant, format: string, stem: string) {
  const { scale } = master;
  const drawn = drawVariant(master, variant, stem);
  if (!isVisible(drawn.raster, undefined, drawn.within))
    throw new CoreError('cutout/nothing-left', `nothing is visible of the variant "${variant.name}".`);
  const definition = formats.get(format);
  const content = contentOf(drawn, scale, definition.accepts, variant);
  const file = `${stem}.${definition.extension}`;
  const part = partOf(formats, format);
  const bytes = await definition.write(content, part.params as never, formatHost);
  const layout = { width: content.widthPx, height: content.heightPx, mark: null as never, enlargement: 1, ppi: null };
  await readBack(bytes, { content, layout }, part, file);
  const at = project(invertProjective(drawn.toWorking), 0, 0);
  const round = (v: number) => Math.round((v / scale) * 1e4) / 1e4;
  return {
    file,
    bytes,
    name: variant.name,
    width: content.widthPx,
    height: content.heightPx,
    offset: { x: round(at.x), y: round(at.y) },
  };
}

/** The whole page, in the master's own units. */
function contentOf(drawn: Artwork, scale: number, accepts: 'pixels' | 'paths', variant: Variant) {
  const { drawing, raster } = drawn;
  const own = drawing && placeDrawing(drawing, scaling(1 / scale), drawing.widthPx / scale, drawing.heightPx / scale);
  if (accepts === 'paths') {
    const end = pathsEndAt(variant);
    if (!own)
      throw new CoreError(
        'format/needs-paths',
        `the variant "${variant.name}" has no paths: ` +
          (end
            ? `${end.why} (${end.title}). Ask for PNG.`
            : 'its master is made of pixels. Trace it first, or ask for PNG.'),
      );
    return { widthPx: own.widthPx, heightPx: own.heightPx, ppi: null, raster: null, drawing: own };
  }
  if (!own || scale === 1) return pageOf(bleedColours({ ...raster, data: raster.data.slice() }));
  const [width, height] = [Math.ceil(own.widthPx - 1e-6), Math.ceil(own.heightPx - 1e-6)];
  return pageOf(bleedColours(renderDrawing(own, { width, height, matrix: scaling(1) })));
}

const pageOf = (raster: Artwork['raster']) => ({
  widthPx: raster.width,
  heightPx: raster.height,
  ppi: null,
  raster,
  drawing: null,
});

import { mkdirSync } from 'node:fs';
import { basename, extname } from 'node:path';
import { CoreError } from '../core/errors';
import type { Anchor } from '../core/params';
import { cutOutParams } from '../core/stages/cutOutParams';
import { decodePicture } from '../codecs/decodePicture';
import { type Command, isFolder, readArguments, readInput, readWhole } from './command';
import type { CutoutJob } from './cutoutFile';
import { penSettings } from './penSettings';
import { type Given, helpOf, optionsOf } from './settingOptions';

const help = `tassel cutout FILE|FOLDER --out FILE.png|FOLDER [options]

Takes a mark off its ground and writes a PNG with straight alpha on the working
picture's own pixel grid, or another format or size. Every file is read back and
checked.

  --way auto|flat|paper  how; auto (the default) looks at each file
  --open X,Y …           enclosed areas that are see-through, each named by a point in it
  --solid X,Y …          enclosed areas that belong to the mark
${helpOf(cutOutParams)}

For ink on paper:
${helpOf(penSettings)}
  --mark N               keeps one signature of the sheet, numbered as inspect lists them

  --recipe IN.json       starts from a saved recipe
  --save-recipe OUT.json writes the recipe used (one file only)
  --report FILE.json     writes what was measured and the time of each step (one file only)
  --trim                 cuts the file down to what is visible
  --format ID            png, webp, avif, tiff or ico; otherwise as the ending of --out says
  --size W or WxH        so many pixels wide, or an exact box that the mark fills; trimmed

A folder is done with all cores; other files are skipped and listed.`;

export const cutout: Command = {
  help,
  async run(argv) {
    const { options, positionals } = splitPoints(argv);
    const { values } = readArguments(options, {
      out: { type: 'string' },
      way: { type: 'string' },
      recipe: { type: 'string' },
      'save-recipe': { type: 'string' },
      report: { type: 'string' },
      trim: { type: 'boolean' },
      mark: { type: 'string' },
      format: { type: 'string' },
      size: { type: 'string' },
      ...optionsOf(cutOutParams),
      ...optionsOf(penSettings),
    });
    if (positionals.files.length !== 1)
      throw new CoreError('cli/usage', `cutout takes one file or folder, got ${positionals.files.length}.`);
    if (!values.out) throw new CoreError('cli/usage', 'cutout needs --out.');
    const way = values.way ?? ((values as Given).ground ? 'flat' : 'auto');
    if (!['auto', 'flat', 'paper'].includes(way))
      throw new CoreError('cli/usage', `--way takes auto, flat or paper, got "${way}".`);
    const input = positionals.files[0];
    // The decoder has threads of its own: while they work, what cuts out is loaded.
    const opened = isFolder(input) ? null : decodePicture(readInput(input), basename(input));
    opened?.catch(() => {});
    const { recipeWith } = await import('./cutoutRecipe');
    const job: CutoutJob = {
      input,
      output: values.out,
      way: way as CutoutJob['way'],
      hasOwnRecipe: values.recipe !== undefined,
      recipe: recipeWith(values, positionals.anchors),
      trim: values.trim ?? false,
      format: readFormat(values.format, isFolder(input) ? '' : values.out),
      size: values.size === undefined ? null : readSides(values.size),
      mark: values.mark === undefined ? null : readWhole(values.mark, 'mark', 1, 999),
      saveRecipe: values['save-recipe'] ?? null,
      report: values.report ?? null,
    };
    if (opened) {
      const { runCutout } = await import('./cutoutFile');
      await runCutout(job, opened);
      return 0;
    }
    if (job.saveRecipe || job.report)
      throw new CoreError('cli/usage', '--save-recipe and --report take one file, not a folder.');
    mkdirSync(job.output, { recursive: true });
    const { runFolder } = await import('./folderWorkers');
    return runFolder(job);
  },
};

/** Formats that a cut-out picture is written as. */
const PICTURES = ['png', 'webp', 'avif', 'tiff', 'ico'];
const BY_ENDING: Record<string, string> = { webp: 'webp', avif: 'avif', tif: 'tiff', tiff: 'tiff', ico: 'ico' };

/** @throws CoreError 'cli/usage' naming the formats that there are */
function readFormat(asked: string | undefined, out: string): string {
  const format = asked ?? BY_ENDING[extname(out).slice(1).toLowerCase()] ?? 'png';
  if (PICTURES.includes(format)) return format;
  const known = PICTURES.join(', ');
  throw new CoreError(
    'cli/usage',
    `--format takes one of ${known} here, got "${format}". Paths come by trace or make.`,
  );
}

/** @throws CoreError 'cli/usage' */
function readSides(text: string): NonNullable<CutoutJob['size']> {
  const found = /^(\d+)(?:x(\d+))?$/i.exec(text);
  if (!found) throw new CoreError('cli/usage', `--size takes 1200 or 360x180, got "${text}".`);
  const [width, height] = found.slice(1).map((v) => (v === undefined ? null : readWhole(v, 'size', 8, 16384)));
  return { width: width as number, height };
}

const FLAGS = new Set([
  '--trim',
  ...Object.entries(optionsOf(cutOutParams)).flatMap(([name, { type }]) => (type === 'boolean' ? [`--${name}`] : [])),
]);

// `--open` and `--solid` take any number of points, which node's own parser does not know.
function splitPoints(argv: readonly string[]) {
  const options: string[] = [];
  const files: string[] = [];
  const anchors: Anchor[] = [];
  let taking: Anchor['decision'] | null = null;
  for (let k = 0; k < argv.length; k++) {
    const word = argv[k];
    const inline = /^--(open|solid)=(.*)$/.exec(word);
    if (word === '--open' || word === '--solid') taking = word.slice(2) as Anchor['decision'];
    else if (inline) anchors.push(readPoint(inline[2], inline[1] as Anchor['decision']));
    else if (taking && /^-?[\d.]+,-?[\d.]+$/.test(word)) anchors.push(readPoint(word, taking));
    else if (word.startsWith('-')) {
      taking = null;
      options.push(word);
      const takesValue = !FLAGS.has(word) && !word.includes('=');
      if (takesValue && k + 1 < argv.length) options.push(argv[++k]);
    } else {
      if (taking && anchors.length === 0)
        throw new CoreError('cli/usage', `--${taking} takes points such as 120,80, got "${word}".`);
      taking = null;
      files.push(word);
    }
  }
  return { options, positionals: { files, anchors } };
}

function readPoint(text: string, decision: Anchor['decision']): Anchor {
  const [x, y, ...rest] = text.split(',').map(Number);
  if (rest.length || !Number.isFinite(x) || !Number.isFinite(y))
    throw new CoreError('cli/usage', `--${decision} takes points such as 120,80, got "${text}".`);
  return { x, y, decision };
}

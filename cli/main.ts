import { isMainThread, workerData } from 'node:worker_threads';
import { CoreError, isCoreError } from '../core/errors';
import type { Command } from './command';

// Each verb is loaded when it is called, so that a short one does not wait for what it never uses.
const commands: readonly { verb: string; summary: string; load: () => Promise<Command> }[] = [
  {
    verb: 'inspect',
    summary: 'what a file is, and what would be done with it',
    load: async () => (await import('./inspect')).inspect,
  },
  {
    verb: 'cutout',
    summary: 'take a mark off its ground, as a transparent PNG',
    load: async () => (await import('./cutout')).cutout,
  },
  {
    verb: 'tidy',
    summary: 'drop specks and pieces, cut along outlines, cover areas',
    load: async () => (await import('./tidy')).tidy,
  },
  {
    verb: 'trace',
    summary: 'draw outlines of a mark as lines and curves: an SVG in a few flat colours',
    load: async () => (await import('./trace')).trace,
  },
  {
    verb: 'split',
    summary: 'take a sheet of several drawn pictures apart, an SVG each',
    load: async () => (await import('./split')).split,
  },
  {
    verb: 'pick',
    summary: 'take paths off a page of a PDF file, as an SVG',
    load: async () => (await import('./pick')).pick,
  },
  {
    verb: 'variants',
    summary: 'make black, reversed, coloured and framed versions of a mark',
    load: async () => (await import('./variants')).variants,
  },
  {
    verb: 'contrast',
    summary: 'measure how well a mark can be seen on colours and photos',
    load: async () => (await import('./contrast')).contrast,
  },
  {
    verb: 'board',
    summary: 'lay out variants on grounds as one picture or PDF',
    load: async () => (await import('./board')).board,
  },
  {
    verb: 'export',
    summary: 'write one file of one mark: SVG, PDF or PNG, of any size',
    load: async () => (await import('./export')).exportFile,
  },
  {
    verb: 'make',
    summary: 'make all files of a plan: marks, variants, sizes, formats, names',
    load: async () => (await import('./make')).make,
  },
  {
    verb: 'check',
    summary: 'read files as another program does, and say what is in them',
    load: async () => (await import('./check')).check,
  },
  {
    verb: 'place',
    summary: 'put marks on photos and exact frames, in the variant that reads best',
    load: async () => (await import('./place')).place,
  },
  {
    verb: 'overlay',
    summary: 'write a mark on a clear frame for video: a picture, or a clip with transparency',
    load: async () => (await import('./overlay')).overlay,
  },
  {
    verb: 'sign',
    summary: 'put a signature on the line of a PDF document',
    load: async () => (await import('./sign')).sign,
  },
  {
    verb: 'sheet',
    summary: 'put a mark on a print sheet, in the opening of a mat',
    load: async () => (await import('./sheet')).sheet,
  },
  {
    verb: 'bundle',
    summary: 'write a mark or a whole brand of the running server as one open ZIP',
    load: async () => (await import('./bundle')).bundle,
  },
  {
    verb: 'unbundle',
    summary: 'take a bundle in, on this installation or another',
    load: async () => (await import('./unbundle')).unbundle,
  },
  {
    verb: 'wall',
    summary: 'look at the logos of a folder, level them and write a picture a slot',
    load: async () => (await import('./wall')).wall,
  },
  {
    verb: 'type',
    summary: 'set a line of text as a mark, as paths',
    load: async () => (await import('./type')).type,
  },
];

const overview = () => `tassel: clean transparent artwork from logos and signatures

${commands.map((c) => `  ${c.verb.padEnd(10)}${c.summary}`).join('\n')}

tassel <verb> --help tells what each takes.`;

/** @returns the exit code: 0 only when everything asked for was done and checked */
async function main(argv: readonly string[]): Promise<number> {
  const [verb, ...rest] = argv;
  if (!verb || verb === '--help' || verb === 'help') {
    console.log(overview());
    return verb ? 0 : 2;
  }
  const entry = commands.find((c) => c.verb === verb);
  if (!entry)
    throw new CoreError(
      'cli/usage',
      `There is no verb "${verb}"; there are ${commands.map((c) => c.verb).join(', ')}.`,
    );
  const command = await entry.load();
  if (rest.includes('--help')) {
    console.log(command.help);
    return 0;
  }
  return command.run(rest);
}

/** Does what a person asked for. @returns the exit code, once all is done */
export const run = (args: readonly string[]): Promise<number> => main(args).catch(tell);

// In a thread that serves a folder nobody asks.
if (!isMainThread && workerData?.isTasselWorker)
  void import('./folderWorkers').then(({ runAsWorker }) => runAsWorker());

function tell(error: unknown): number {
  console.error(`tassel: ${oneLine(error)}`);
  return isCoreError(error) && error.code === 'cli/usage' ? 2 : 1;
}

function oneLine(error: unknown): string {
  return (error instanceof Error ? error.message : String(error)).replace(/\s*\n\s*/g, ' ');
}

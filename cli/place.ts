import { availableParallelism } from 'node:os';
import { basename } from 'node:path';
import { decodePicture } from '../codecs/decodePicture';
import { openPhoto } from '../codecs/photos/photo';
import { type LaidItem, type PlacedItem, framePhoto, gapsOf, layItems } from '../codecs/photos/placeOnPhoto';
import { type PhotoOptions, USUAL_QUALITY, writePhoto } from '../codecs/photos/writePhoto';
import { burnIn } from '../codecs/video/burnIn';
import { probeClip } from '../codecs/video/clip';
import { placeOnClip } from '../codecs/video/placeOnClip';
import { CoreError } from '../core/errors';
import { type Placement, readPlacement } from '../core/placements/readPlacement';
import { type Command, naming, readArguments, readInput, readNumber, readWhole, writeWhole } from './command';
import { type Target, readGrounds, targetsOf } from './groundOptions';
import { marksToLay, variantsOf } from './marksToLay';
import { readJsonFile } from './readJsonFile';

const help = `tassel place GROUND|FOLDER … --mark MASTER … --out FILE|FOLDER [options]

Puts marks on photos, on a clip, or on an exact frame. GROUND is a photo, a folder of
them, an MP4, MOV or WebM clip, or WxH[:colour], clear without a colour; a frame beside
a photo takes the photo in. A ground is never written over. A photo keeps its colour
profile and what it says of itself, but not the place where it was taken.

  --variant auto|black|reversed|colour|FILE.json
                   auto, at first, takes of black, reversed and colour the one that
                   stands out most on this ground
  --at ANCHOR|X,Y  upper-left, upper, upper-right, left, centre, right, lower-left,
                   lower, lower-right (at first); or the middle of the mark, px
  --inset 4%|PX    from the mark to the edges; % of the ground's shorter side
  --size 18%|PX    width of the mark; % of the ground's width, or "20% of height",
                   "of short side", "of area"
  --opacity 0..1   1 at first
  --placement P.json
                   { items: [{ mark: path or { strip: colour, edge, heightPx }, variant,
                   at, inset, size, opacity, blend, turnDeg }, …], fit: "fill", "fit",
                   "stretch" or { x, y, width, height } of the frame, frame: "WxH" };
                   the options above serve where an item says nothing
  --quality N      of JPEG files, 40 to 100; ${USUAL_QUALITY} at first
  --long-edge PX   photos are reduced to it
  --keep-location  the place where a photo was taken goes along
  --name PATTERN   of results in a folder, such as {photo}-marked
  --report R.json  what was done on every ground, with contrast and gaps`;

/** Photos are looked at, laid on and written at the same time, one for each core. */
const AT_ONCE = availableParallelism();

interface Job {
  readonly items: readonly LaidItem[];
  readonly placement: Placement;
  readonly options: PhotoOptions;
}

interface Report {
  readonly ground: string;
  readonly out: string;
  readonly gaps: number;
  readonly items: readonly object[];
}

export const place: Command = {
  help,
  async run(argv) {
    const { values, positionals, tokens } = readArguments(argv, {
      mark: { type: 'string', multiple: true },
      out: { type: 'string' },
      variant: { type: 'string' },
      at: { type: 'string' },
      inset: { type: 'string' },
      size: { type: 'string' },
      opacity: { type: 'string' },
      placement: { type: 'string' },
      quality: { type: 'string' },
      'long-edge': { type: 'string' },
      'keep-location': { type: 'boolean' },
      name: { type: 'string' },
      report: { type: 'string' },
    });
    const { grounds: words, marks } = split(tokens, values.mark ?? []);
    if (words.length === 0 || positionals.length === 0) throw new CoreError('cli/usage', 'place takes a ground.');
    if (!values.out || (marks.length === 0 && !values.placement))
      throw new CoreError('cli/usage', 'place needs --mark or --placement, and --out.');
    const placement = placementOf(values, marks);
    const { frame, paths } = readGrounds(words);
    if (paths.length > 0 && typeof placement.fit === 'object' && !frame && !placement.frame)
      throw new CoreError(
        'cli/usage',
        'A part of a frame needs the frame: name it beside the photo, such as photo.jpg 640x360, or in it.',
      );
    const job: Job = {
      items: await marksToLay(placement.items, values.placement ?? null),
      placement: { ...placement, frame: frame ?? placement.frame },
      options: {
        quality: values.quality === undefined ? USUAL_QUALITY : readNumber(values.quality, 'quality', 40, 100),
        ...(values['long-edge'] ? { longEdgePx: readWhole(values['long-edge'], 'long-edge', 8, 16_384) } : {}),
        keepsLocation: values['keep-location'] ?? false,
      },
    };
    const pattern = values.name ?? '{photo}';
    const targets =
      paths.length > 0
        ? targetsOf(paths, values.out, (photo) => pattern.replaceAll('{photo}', photo))
        : [{ ground: words[0], kind: 'frame' as const, out: frameOut(values.out) }];
    const { report, failed } = await placeAll(targets, job);
    if (values.report) writeWhole(values.report, `${JSON.stringify(report, null, 2)}\n`);
    return failed ? 1 : 0;
  },
};

// Checked as the name of a photo's result is.
const frameOut = (out: string): string => targetsOf(['frame.png'], out, (name) => name)[0].out;

interface Token {
  readonly kind: string;
  readonly name?: string;
  readonly value?: string | boolean;
}

/** Words before the first mark are grounds; more words after a mark are marks too. */
function split(tokens: readonly Token[], marks: readonly string[]): { grounds: string[]; marks: string[] } {
  const out = { grounds: [] as string[], marks: [...marks] };
  let last: string | null = null;
  for (const { kind, name, value } of tokens) {
    if (kind === 'option') last = name ?? null;
    if (kind !== 'positional') continue;
    if (last === 'mark') out.marks.push(String(value));
    else out.grounds.push(String(value));
  }
  return out;
}

function placementOf(values: Record<string, unknown>, marks: readonly string[]): Placement {
  const usual = Object.fromEntries(
    ['variant', 'at', 'inset', 'size', 'opacity'].flatMap((key) => {
      const text = values[key] as string | undefined;
      if (text === undefined) return [];
      return [[key, key === 'opacity' ? readNumber(text, key, 0, 1) : text]];
    }),
  );
  if (usual.variant) variantsOf(usual.variant as string);
  const file = values.placement as string | undefined;
  if (file === undefined) return readOptions({ items: marks.map((mark) => ({ ...usual, mark })) });
  const given = readJsonFile(file) as { items?: unknown };
  const isList = typeof given === 'object' && given !== null && Array.isArray(given.items);
  if (!isList) return namingFile(file, () => readPlacement(given));
  const items = (given.items as unknown[]).map((item) =>
    typeof item === 'object' && item !== null && !isStripLike(item)
      ? { ...(marks[0] === undefined ? {} : { mark: marks[0] }), ...usual, ...item }
      : item,
  );
  return namingFile(file, () => readPlacement({ ...given, items }));
}

const isStripLike = (item: object): boolean => 'strip' in item || typeof (item as { mark?: unknown }).mark === 'object';

/** What is wrong is named as the option that it came by. */
function readOptions(value: unknown): Placement {
  return renaming(
    (text) => text.replace(/items\[\d+\]\.(\w+)/g, '--$1'),
    () => readPlacement(value),
  );
}
const namingFile = (file: string, work: () => Placement) => renaming((text) => `${file}: ${text}`, work);

function renaming(rename: (text: string) => string, work: () => Placement): Placement {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    throw new CoreError('cli/usage', rename(error.message), error.details, { cause: error });
  }
}

/** Every ground, as many at once as there are cores; one that fails does not stop the others. */
async function placeAll(targets: readonly Target[], job: Job): Promise<{ report: Report[]; failed: number }> {
  const report: (Report | undefined)[] = [];
  const queue = targets.map((target, k) => ({ target, k }));
  let failed = 0;
  const turn = async () => {
    for (let next = queue.shift(); next; next = queue.shift()) {
      const { target, k } = next;
      try {
        report[k] = await naming(basename(target.ground), () => placeOn(target, job));
      } catch (error) {
        if (targets.length === 1 || !(error instanceof CoreError)) throw error;
        failed++;
        console.error(`tassel: ${error.message}`);
      }
    }
  };
  await Promise.all(Array.from({ length: Math.min(AT_ONCE, targets.length) }, turn));
  return { report: report.flatMap((r) => r ?? []), failed };
}

async function placeOn({ ground, kind, out }: Target, { items, placement, options }: Job): Promise<Report> {
  if (kind === 'clip') {
    const clip = await probeClip(ground);
    const placed = await placeOnClip(clip, items);
    await burnIn(clip, { frame: placed.frame }, out);
    return { ground, out, gaps: 0, items: placed.items.map((item) => told(item, false)) };
  }
  const { frame, fit } = placement;
  const photo =
    kind === 'frame' && frame
      ? framePhoto(frame, null, fit)
      : frame
        ? framePhoto(frame, (await decodePicture(readInput(ground), basename(ground))).raster, fit)
        : await openPhoto(readInput(ground), basename(ground));
  const placed = await layItems(photo, items);
  const gaps = gapsOf(photo);
  writeWhole(out, await writePhoto(photo, out, options));
  if (gaps && frame && !photo.isClear) {
    const { px, box } = gaps;
    console.error(`tassel: ${out}: nothing covers ${px} px, in ${box.width} × ${box.height} px at ${box.x}, ${box.y}.`);
  }
  return { ground, out, gaps: gaps?.px ?? 0, items: placed.map((item) => told(item, photo.isClear)) };
}

const round = (v: number) => Math.round(v * 1000) / 1000;

function told({ variant, standing, box }: PlacedItem, isClear: boolean) {
  if (variant === null) return { variant: null, contrast: null, shareAbove3: null, box };
  const { ratio, shareAbove3 } = standing ?? { ratio: 1, shareAbove3: 0 };
  return { variant, contrast: isClear ? 1 : round(ratio), shareAbove3: round(shareAbove3), box };
}

import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { extname, join } from 'node:path';
import { crc32 } from 'node:zlib';
import type { ClipOptions, LookView, RunOptions, SeenView } from '../contract/views';
import type { Artwork } from '../core/artwork/artwork';
import { extentsOf } from '../core/artwork/extentsOf';
import { type MarkWidths, masterStrokes } from '../core/recipe/thinLines';
import { meantGround } from '../core/contrast/meantGround';
import type { Standing } from '../core/contrast/standing';
import { bestStanding } from '../core/contrast/standing';
import { CoreError } from '../core/errors';
import { fitPhoto } from '../core/placements/fitPhoto';
import { itemsAsSeen, scaleItem, scaleItems } from '../core/placements/itemOn';
import { type LaidVariant, layVariant, placeItem } from '../core/placements/placeItem';
import { ANCHORS, placeBox } from '../core/placements/placement';
import {
  type Fit,
  type Frame,
  type Item,
  type MarkItem,
  type Placement,
  isStrip,
  readPlacement,
} from '../core/placements/readPlacement';
import { stripOn } from '../core/placements/placeItem';
import { type Recipe, readRecipe } from '../core/recipe/recipe';
import { makeVariant } from '../core/recipe/runRecipe';
import { checkFile, decodePicture, fromRaw } from '../codecs/decodePicture';
import { encodePng } from '../codecs/encodePng';
import { type Photo, openPhoto, photoOfRaster } from '../codecs/photos/photo';
import { type LaidItem, framePhoto, gapsOf, layItems } from '../codecs/photos/placeOnPhoto';
import { writePhoto } from '../codecs/photos/writePhoto';
import { type BurnOrder, burnIn } from '../codecs/video/burnIn';
import { CLIP_ENDINGS, frameAt, probeClip } from '../codecs/video/clip';
import { ENDING_OF, type OverlayForm, USUAL_RATE, writeOverlay } from '../codecs/video/overlayClip';
import { placeOnClip } from '../codecs/video/placeOnClip';
import { bleedColours } from '../core/raster/bleedColours';
import { createRaster } from '../core/raster/raster';
import { type TaskHost, type TaskSource, openSource, optionsOf } from './coreTasks';
import { keepBlob, readBlob } from './store/blobs';
import { keepMade } from './store/placements';

/** A ground is looked at so large before anything is written. */
const LOOK_PIXELS = 1_500_000;
const LOOK_QUALITY = 84;

/** A mark as a placement needs it. */
export interface PlacedMark {
  readonly id: string;
  readonly source: TaskSource;
  readonly recipe: Recipe;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
}

export interface PreparedRunGround {
  readonly kind: 'photo' | 'clip';
  readonly blobSha: string;
  readonly previewSha: string;
  readonly width: number;
  readonly height: number;
  readonly seconds: number | null;
}

const isClipName = (name: string) => CLIP_ENDINGS.includes(extname(name).toLowerCase());

/** Keeps a photo or clip as it came, and a smaller picture of it. @throws CoreError naming the file */
export async function prepareRunGround(
  { db }: TaskHost,
  { bytes, name }: { bytes: Uint8Array; name: string },
): Promise<PreparedRunGround> {
  if (isClipName(name)) return prepareClip({ db }, bytes, name);
  if (checkFile(bytes, name).id === 'svg')
    throw new CoreError('intake/unsupported', `${name} is a drawing. Marks are placed on photos and clips.`, {
      file: name,
    });
  const { width, height } = await openPhoto(bytes, name);
  const { raster } = await decodePicture(bytes, name, LOOK_PIXELS);
  const mediaType = { jpeg: 'image/jpeg', png: 'image/png', webp: 'image/webp' }[checkFile(bytes, name).id as string];
  return {
    ...{ kind: 'photo', width, height, seconds: null },
    blobSha: await keepBlob(db, bytes, mediaType ?? 'image/tiff'),
    previewSha: await keepBlob(db, await previewOf(raster), 'image/jpeg'),
  };
}

const previewOf = (raster: Parameters<typeof fromRaw>[0]) =>
  fromRaw(raster).flatten({ background: '#ffffff' }).jpeg({ quality: LOOK_QUALITY }).toBuffer();

async function prepareClip({ db }: Pick<TaskHost, 'db'>, bytes: Uint8Array, name: string): Promise<PreparedRunGround> {
  return onFile(bytes, name, async (path) => {
    const clip = await probeClip(path, name);
    const { width, height, seconds } = clip;
    const scale = Math.min(1, Math.sqrt(LOOK_PIXELS / (width * height)));
    const frame = await frameAt(clip, seconds / 2, Math.round(width * scale));
    const type = { '.mp4': 'video/mp4', '.mov': 'video/quicktime', '.webm': 'video/webm' }[extname(name).toLowerCase()];
    return {
      ...{ kind: 'clip', width, height, seconds },
      blobSha: await keepBlob(db, bytes, type as string),
      previewSha: await keepBlob(db, await previewOf(frame), 'image/jpeg'),
    };
  });
}

/** The programs of the system read files alone: one of ours, for as long as some work lasts. */
async function onFile<T>(bytes: Uint8Array, name: string, work: (path: string, folder: string) => Promise<T>) {
  const folder = mkdtempSync(join(tmpdir(), 'tassel-clip-'));
  try {
    const path = join(folder, `clip${extname(name).toLowerCase()}`);
    writeFileSync(path, bytes);
    return await work(path, folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

// Variants that were drawn last: a run asks for the same ones on every ground.
const drawn = new Map<string, Artwork>();
const MOST_DRAWN = 8;
/** Widths of strokes of what was drawn, measured where they are asked for. */
const measured = new WeakMap<Artwork, MarkWidths | null>();
export const forgetDrawn = () => drawn.clear();

function thinnestOn(artwork: Artwork, width: number): number | null {
  if (!measured.has(artwork)) measured.set(artwork, masterStrokes(artwork));
  const found = measured.get(artwork);
  const extents = extentsOf(artwork);
  return found && extents ? (found.thinnestPx * width) / extents.width : null;
}

export async function drawVariantOf(host: TaskHost, mark: PlacedMark, variantId: string): Promise<Artwork> {
  const recipe = readRecipe(mark.recipe);
  const variant = recipe.variants.find((v) => v.id === variantId);
  if (!variant) throw new CoreError('store/not-found', 'The mark has no such variant any more.');
  const { fill, surrounds, casts } = variant;
  const key = JSON.stringify([mark.source, recipe.stages, fill, surrounds, casts, mark.palette]);
  const known = drawn.get(key);
  if (known) return known;
  const artwork = await openSource(host, mark.source);
  const options = { ...optionsOf(host, mark.source), pictureOnly: true };
  const made = makeVariant(artwork, recipe, variant, options, { palette: mark.palette });
  if (drawn.size >= MOST_DRAWN) drawn.delete(drawn.keys().next().value as string);
  drawn.set(key, made);
  return made;
}

/** Which variants an item chooses among. */
const choicesOf = ({ variant }: MarkItem, recipe: Recipe): string[] =>
  variant === 'auto' ? recipe.variants.map((v) => v.id) : typeof variant === 'string' ? [variant] : [...variant];

async function layChoices(host: TaskHost, item: MarkItem, marks: readonly PlacedMark[]): Promise<LaidVariant[]> {
  const mark = marks.find((m) => m.id === item.mark);
  if (!mark) throw new CoreError('store/not-found', 'A mark of this placement was removed. Choose another one.');
  const out: LaidVariant[] = [];
  for (const id of choicesOf(item, mark.recipe))
    out.push(layVariant({ id, name: id }, await drawVariantOf(host, mark, id), item.turnDeg));
  return out;
}

async function layAll(host: TaskHost, items: readonly Item[], marks: readonly PlacedMark[]): Promise<LaidItem[]> {
  const out: LaidItem[] = [];
  for (const item of items) out.push({ item, choices: isStrip(item) ? [] : await layChoices(host, item, marks) });
  return out;
}

export interface GroundTask {
  readonly id: string;
  readonly name: string;
  readonly kind: 'photo' | 'clip';
  readonly sha: string;
  readonly previewSha: string;
  readonly width: number;
  readonly height: number;
  /** Items with what differs on this ground alone. */
  readonly items: readonly Item[];
}

export interface LookTask {
  readonly marks: readonly PlacedMark[];
  readonly rule: Placement;
  readonly grounds: readonly GroundTask[];
  readonly corners: boolean;
}

const told = ({ ratio, shareAbove3, worst }: Standing, up: number): SeenView => ({
  ratio,
  shareAbove3,
  worst: worst && { x: worst.x * up, y: worst.y * up, ratio: worst.ratio },
});

/** How a placement comes out on some grounds, measured on smaller pictures of them. */
export async function lookAtGrounds(host: TaskHost, task: LookTask): Promise<LookView[]> {
  const out: LookView[] = [];
  for (const ground of task.grounds) out.push(await lookAtGround(host, task, ground));
  return out;
}

async function lookAtGround(host: TaskHost, { marks, rule, corners }: LookTask, ground: GroundTask): Promise<LookView> {
  const { bytes } = await readBlob(host.db, ground.previewSha);
  const frame = ground.kind === 'photo' ? rule.frame : null;
  const page = frame ?? ground;
  const shown = frame ? await frameToLookAt(frame, rule.fit, bytes) : await openPhoto(bytes, 'preview.jpg');
  const scale = shown.width / page.width;
  const view = { ...shown };
  const laid = await layAll(host, ground.items, marks);
  const firstMark = laid.find((l) => !isStrip(l.item));
  const around = corners && firstMark ? await tryCorners(view, firstMark, scale) : null;
  const smaller = laid.map((l, k) => ({ ...l, item: scaleItems(ground.items, scale)[k] }));
  const overTime = ground.kind === 'clip' ? await lookOverTime(host, ground, laid) : null;
  const placed = await layItems(shown, smaller);
  const gaps = frame ? gapsOf(shown) : null;
  const strokes = await Promise.all(
    ground.items.map(async (item, k) => {
      const variant = overTime?.[k]?.variant ?? placed[k].variant;
      const mark = isStrip(item) ? undefined : marks.find((m) => m.id === item.mark);
      if (!mark || variant === null || isStrip(item)) return null;
      const choice = laid[k].choices.find((c) => c.id === variant) as LaidVariant;
      const wide = (placed[k].box.width / scale / choice.turned.width) * choice.own.width;
      return thinnestOn(await drawVariantOf(host, mark, variant), wide);
    }),
  );
  return {
    ...{ ground: ground.id, width: page.width, height: page.height },
    photo: frame ? fitPhoto(ground, frame, rule.fit).to : { x: 0, y: 0, width: page.width, height: page.height },
    gaps: gaps && { px: Math.round(gaps.px / scale ** 2), box: scaledRect(gaps.box, 1 / scale) },
    items: placed.map((p, k) => {
      const { item, choices } = laid[k];
      const chosen = overTime?.[k]?.variant ?? p.variant;
      const standing = overTime?.[k]?.standing ?? p.standing;
      const laidVariant = choices.find((c) => c.id === chosen);
      // On the ground's own pixels, as the file will have it.
      const box = isStrip(item) ? stripOn(page, item).box : placeBox(page, laidVariant as LaidVariant, item);
      return {
        ...{ variant: chosen, box, seen: standing && told(standing, overTime ? 1 : 1 / scale) },
        thinnestPx: strokes[k],
        tried: p.tried.map((t) => ({ variant: t.id, ...told(t.standing, 1 / scale) })),
        overTime: overTime?.[k]?.overTime ?? [],
      };
    }),
    corners: around,
  };
}

/** An exact frame with its photo, no larger than is looked at. */
async function frameToLookAt(frame: Frame, fit: Fit, preview: Buffer): Promise<Photo> {
  const scale = Math.min(1, Math.sqrt(LOOK_PIXELS / (frame.width * frame.height)));
  const small = { width: Math.round(frame.width * scale), height: Math.round(frame.height * scale) };
  const { raster } = await decodePicture(preview, 'preview.jpg');
  return framePhoto({ ...frame, ...small }, raster, typeof fit === 'object' ? scaledRect(fit, scale) : fit);
}

const scaledRect = (r: { x: number; y: number; width: number; height: number }, s: number) => ({
  ...{ x: Math.round(r.x * s), y: Math.round(r.y * s) },
  ...{ width: Math.max(1, Math.round(r.width * s)), height: Math.max(1, Math.round(r.height * s)) },
});

async function tryCorners(view: Parameters<typeof placeItem>[0], { item, choices }: LaidItem, scale: number) {
  const all = [];
  for (const at of ANCHORS) {
    const found = await placeItem(view, scaleItem({ ...(item as MarkItem), at }, scale), choices);
    if (found.standing) all.push({ at, variant: found.variant, standing: found.standing });
  }
  const sorted: typeof all = [];
  while (all.length > 0) sorted.push(...all.splice(bestStanding(all.map((a) => a.standing)), 1));
  return sorted.map(({ at, variant, standing }) => ({ at, variant, seen: told(standing, 1 / scale) }));
}

async function lookOverTime({ db }: TaskHost, { sha, name }: GroundTask, laid: readonly LaidItem[]) {
  const { bytes } = await readBlob(db, sha);
  return onFile(bytes, name, async (path) => {
    const { items } = await placeOnClip(await probeClip(path, name), laid);
    return items.map(({ variant, standing, overTime }) => ({
      ...{ variant, standing },
      overTime: (overTime[0]?.moments ?? []).map(({ seconds }, k) => ({
        seconds,
        shares: Object.fromEntries(overTime.map((o) => [o.variant, o.moments[k].standing.shareAbove3])),
      })),
    }));
  });
}

export interface PlaceTask {
  readonly marks: readonly PlacedMark[];
  readonly rule: Placement;
  readonly options: RunOptions;
  readonly ground: GroundTask & { readonly seen: readonly (string | null)[] | null };
  /** What the file is made of. */
  readonly key: string;
  /** Its name without an ending. */
  readonly stem: string;
}

const ENDING: Record<RunOptions['format'], string | null> = {
  ...{ same: null, jpeg: '.jpg', png: '.png', webp: '.webp', tiff: '.tif' },
};

/** One ground with all its items as a file, kept. */
export async function placeOnGround(host: TaskHost, task: PlaceTask): Promise<void> {
  const { marks, options, ground, key } = task;
  const rule = readPlacement(task.rule);
  const laid = await layAll(host, itemsAsSeen(ground.items, ground.seen), marks);
  const { bytes } = await readBlob(host.db, ground.sha);
  const own = extname(ground.name).toLowerCase();
  const made =
    ground.kind === 'clip'
      ? await placeOnOneClip(bytes, ground.name, laid, options.clip)
      : await placeOnPhoto(bytes, `${task.stem}${ENDING[options.format] ?? (own || '.jpg')}`, laid, {
          ground,
          rule,
          options,
        });
  await keepMade(host.db, ground.id, {
    ...{ key, name: `${task.stem}${made.ending}`, size: made.bytes.length, crc32: crc32(made.bytes) },
    sha: await keepBlob(host.db, made.bytes, made.type),
    report: { gaps: made.gaps, items: made.items },
  });
}

async function placeOnPhoto(
  bytes: Buffer,
  name: string,
  laid: readonly LaidItem[],
  { ground, rule, options }: { ground: GroundTask; rule: Placement; options: RunOptions },
) {
  const { frame, fit } = rule;
  const photo = frame
    ? framePhoto(frame, (await decodePicture(bytes, ground.name)).raster, fit)
    : await openPhoto(bytes, ground.name);
  const placed = await layItems(photo, laid);
  const { quality, keepsLocation, longEdgePx, subsampling, isProgressive } = options;
  const written = await writePhoto(photo, name, {
    ...{ quality, keepsLocation, subsampling, isProgressive },
    ...(longEdgePx === null ? {} : { longEdgePx }),
  });
  const ending = extname(name).toLowerCase();
  const type =
    { '.png': 'image/png', '.webp': 'image/webp' }[ending] ?? (ending.startsWith('.t') ? 'image/tiff' : 'image/jpeg');
  const items = placed.map(({ variant, standing, box }) => ({ variant, standing, box }));
  return { bytes: written, ending, type, gaps: gapsOf(photo)?.px ?? 0, items };
}

function placeOnOneClip(bytes: Buffer, name: string, laid: readonly LaidItem[], when: ClipOptions | undefined) {
  return onFile(bytes, name, async (path, folder) => {
    const clip = await probeClip(path, name);
    const placed = await placeOnClip(clip, laid);
    const ending = extname(name).toLowerCase() === '.mov' ? '.mov' : '.mp4';
    const out = join(folder, `made${ending}`);
    await burnIn(clip, { frame: placed.frame, ...timesOf(when, clip.seconds) }, out);
    const items = placed.items.map(({ variant, standing, box }) => ({ variant, standing, box }));
    const type = ending === '.mov' ? 'video/quicktime' : 'video/mp4';
    return { bytes: readFileSync(out), ending, type, gaps: 0, items };
  });
}

/** When a mark is on a clip, and which part of it is written. */
function timesOf(when: ClipOptions | undefined, seconds: number): Pick<BurnOrder, 'showing' | 'cut'> {
  if (!when) return {};
  const { from, until, fade, cutFrom, cutUntil } = when;
  const isCut = cutFrom !== null || cutUntil !== null;
  const cut = { from: cutFrom ?? 0, until: Math.min(cutUntil ?? seconds, seconds) };
  if (isCut && cut.until - cut.from < LEAST_CUT)
    throw new CoreError('request/invalid', `The part from ${cut.from} to ${cut.until} s of the clip holds nothing.`);
  // Told from the clip's own beginning, whatever is cut off before.
  const off = isCut ? cut.from : 0;
  return {
    ...(isCut ? { cut } : {}),
    showing: {
      ...(from === null ? {} : { from: Math.max(0, from - off) }),
      ...(until === null ? {} : { until: until - off }),
      ...(fade > 0 ? { fadeIn: fade, fadeOut: fade } : {}),
    },
  };
}
const LEAST_CUT = 0.1;

export interface OverlayTask {
  readonly marks: readonly PlacedMark[];
  readonly ground: PlaceTask['ground'];
  readonly form: OverlayForm;
  readonly seconds: number;
  readonly fade: number;
}

/** The marks of a ground on a clear frame, as a picture or a clip for a video program. */
export async function makeOverlay(host: TaskHost, task: OverlayTask): Promise<Uint8Array> {
  const { marks, ground, form, seconds, fade } = task;
  const laid = await layAll(host, itemsAsSeen(ground.items, ground.seen), marks);
  const page = photoOfRaster(createRaster(ground.width, ground.height), true);
  await layItems(page, laid);
  const raster = { width: page.width, height: page.height, data: Uint8Array.from(page.data) };
  if (form === 'png') return encodePng(bleedColours(raster));
  const folder = mkdtempSync(join(tmpdir(), 'tassel-overlay-'));
  try {
    const out = join(folder, `overlay.${ENDING_OF[form]}`);
    await writeOverlay(raster, { form, seconds, rate: USUAL_RATE, fadeIn: fade, fadeOut: fade }, out);
    return readFileSync(out);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

export interface LaidTask {
  readonly mark: PlacedMark;
  readonly variant: string;
  /** Of its turned extents, px. */
  readonly width: number;
  readonly turnDeg: number;
}

/** A variant as a proof shows it, as a PNG, and the background that it is meant for, a colour. */
export async function drawProof(
  host: TaskHost,
  { mark, variant, width }: Omit<LaidTask, 'turnDeg'>,
): Promise<{ png: Uint8Array; ground: string }> {
  const artwork = await drawVariantOf(host, mark, variant);
  const drawn = layVariant({ id: variant, name: variant }, artwork, 0).atWidth(width);
  return { png: await encodePng(drawn.raster), ground: meantGround(drawn) };
}

/** A variant as it is laid on a ground. */
export async function drawLaid(host: TaskHost, { mark, variant, width, turnDeg }: LaidTask): Promise<Uint8Array> {
  const artwork = await drawVariantOf(host, mark, variant);
  return encodePng(layVariant({ id: variant, name: variant }, artwork, turnDeg).atWidth(width).raster);
}

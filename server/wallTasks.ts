import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { rgbFromHex } from '../core/colour/hex';
import { isCoreError } from '../core/errors';
import { variantOf, partOf, readRecipe } from '../core/recipe/recipe';
import { fills } from '../core/fills';
import { bestStanding } from '../core/contrast/standing';
import { bleedColours } from '../core/raster/bleedColours';
import type { Raster } from '../core/raster/raster';
import { resizeRaster } from '../core/raster/resize';
import { type WallProblem, auditLogo, standingOn } from '../core/wall/auditLogo';
import { lookOfMark } from '../core/wall/copies';
import { dressForWall } from '../core/wall/dressForWall';
import { type SlotBox, visibleOf } from '../core/wall/drawSlot';
import { coverBox } from '../core/wall/drawWall';
import { measureOptics } from '../core/wall/opticalSize';
import { type Slot, type WallRule, roomOf, slotOf } from '../core/wall/wallRule';
import { checkFile, decodePicture } from '../codecs/decodePicture';
import { encodePng } from '../codecs/encodePng';
import { readSvg } from '../codecs/readSvg';
import { type MadeFile, slotPictures, wallFiles, wallPdf, wallPicture } from '../codecs/wallFiles';
import type { TaskHost } from './coreTasks';
import { type PlacedMark, drawVariantOf } from './placeTasks';
import { keepBlob, readBlob } from './store/blobs';
import type { KeptLook } from './store/walls';

export interface SlotTask {
  readonly file: string;
  readonly originalSha: string;
  readonly shows: 'file' | 'mark' | null;
  readonly mark: PlacedMark;
  readonly variant: string | null;
  readonly squeeze: number;
}

export interface LookTask extends SlotTask {
  readonly rule: WallRule;
  /** The photo that the rule names. */
  readonly groundSha: string | null;
  /** The mark has a newer original than the file. */
  readonly isOlder: boolean;
}

export interface LookedSlot {
  readonly shows: 'file' | 'mark';
  readonly look: KeptLook;
  readonly pictureSha: string;
}

/** Files are looked at with so many pixels at most. */
const FILE_PIXELS = 6_000_000;
/** Paths are looked at so many times as large as their slot. */
const DRAWN_AT = 2;

const longOf = ({ width, height }: { width: number; height: number }) => Math.max(width, height);

/**
 * Looks at one slot of a wall. Where nobody has said what it shows, a file that nothing is wrong with becomes its mark,
 * and any other stays as it came until it is mended.
 */
export async function lookAtSlot(host: TaskHost, task: LookTask): Promise<LookedSlot> {
  const ground = await groundOf(host, task);
  if (task.shows !== 'mark') {
    const asItCame = await lookAtFile(host, task, ground);
    if (task.shows === 'file' || task.isOlder || asItCame.look.problems.length > 0) return asItCame;
  }
  return lookAtMark(host, task, ground).catch((error: unknown) => {
    // A recipe that leaves nothing has its file shown in its place.
    if (!isCoreError(error) || ['store/unavailable', 'work/stopped'].includes(error.code)) throw error;
    return lookAtFile(host, task, ground);
  });
}

async function groundOf(host: TaskHost, { rule, groundSha }: Pick<LookTask, 'rule' | 'groundSha'>) {
  if (!groundSha) return rgbFromHex(rule.ground);
  const photo = (await decodePicture((await readBlob(host.db, groundSha)).bytes, 'ground', FILE_PIXELS)).raster;
  return coverBox(photo, { width: rule.widthPx, height: rule.heightPx });
}

type Ground = Awaited<ReturnType<typeof groundOf>>;

/** The file as it came, white box, margins and all. */
async function lookAtFile(host: TaskHost, task: LookTask, ground: Ground): Promise<LookedSlot> {
  const slot = slotOf(task.rule);
  const { raster, drawing } = await openFile(host, task, slot);
  const audited = auditLogo(raster, { room: roomOf(slot), ground, isDrawn: drawing !== null });
  const { mark, at, problems, stretch, oldGround } = audited;
  const optics = measureOptics(mark);
  const look: KeptLook = {
    ...{ width: raster.width, height: raster.height, problems, stretch, best: null, hasPaths: drawing !== null },
    optics: { ...optics, middle: { x: optics.middle.x + at.x, y: optics.middle.y + at.y } },
    enlarged: drawing ? 1 : enlargedIn(mark, slot),
    oldGround,
    alike: lookOfMark(mark),
  };
  return { shows: 'file', look, pictureSha: await keepShown(host, raster, slot) };
}

async function openFile({ db }: TaskHost, { originalSha, file }: SlotTask, slot: Slot): Promise<Artwork> {
  const { bytes } = await readBlob(db, originalSha);
  if (checkFile(bytes, file).id !== 'svg')
    return artworkOfRaster((await decodePicture(bytes, file, FILE_PIXELS)).raster);
  const drawing = readSvg(bytes, file);
  return artworkOfDrawing(
    drawing,
    Math.max(1, longOf({ width: drawing.widthPx, height: drawing.heightPx }) / (DRAWN_AT * longOf(slot))),
  );
}

/** The mark as its recipe makes it, in the wall's dress and its own proportions. */
async function lookAtMark(host: TaskHost, task: LookTask, ground: Ground): Promise<LookedSlot> {
  const slot = slotOf(task.rule);
  const artwork = await dressedMark(host, task, task.variant);
  const own = visibleOf(artwork, DRAWN_AT * longOf(slot));
  const isDrawn = artwork.drawing !== null;
  // Once squeezed it has its own proportions: nothing is enlarged by that, and nothing is stretched any more.
  const shown = squeezed(own, task.squeeze);
  const sized = fitIn(shown, slot);
  const audited = auditLogo(isDrawn ? sized : own, { room: roomOf(slot), ground, isDrawn });
  // What was mended already is not told again: nothing more can be done about it in one press.
  const isTaken = task.mark.recipe.stages.cutOut.oldGround.length > 0;
  const done: WallProblem[] = [
    ...(['margins', 'white-box'] as const),
    ...(task.squeeze === 1 ? [] : (['stretched'] as const)),
    ...(isTaken ? (['fringe'] as const) : []),
  ];
  const isKnown = (p: WallProblem) => !done.includes(p);
  const problems = audited.problems.filter(isKnown);
  const look: KeptLook = {
    ...{ width: shown.width, height: shown.height, optics: measureOptics(shown), hasPaths: isDrawn, problems },
    stretch: audited.stretch,
    enlarged: isDrawn ? 1 : enlargedIn(own, slot),
    oldGround: audited.oldGround,
    best: problems.includes('lost') ? await bestVariant(host, task, ground) : null,
    alike: lookOfMark(shown),
  };
  return { shows: 'mark', look, pictureSha: await keepShown(host, sized, slot) };
}

const enlargedIn = (mark: Raster, slot: Slot): number => {
  const room = roomOf(slot);
  return Math.max(1, Math.min(room.width / mark.width, room.height / mark.height));
};

/** A picture brought back into its own proportions: the longer way is shortened. */
function squeezed(raster: Raster, by: number): Raster {
  if (by === 1) return raster;
  const { width, height } = raster;
  const side = (px: number, times: number) => Math.max(1, Math.round(px / times));
  return by > 1 ? resizeRaster(raster, side(width, by), height) : resizeRaster(raster, width, side(height, 1 / by));
}

/** Pictures of a slot are kept no larger than twice what it has room for. */
function fitIn(raster: Raster, slot: Slot): Raster {
  const scale = Math.min(1, (DRAWN_AT * slot.width) / raster.width, (DRAWN_AT * slot.height) / raster.height);
  if (scale === 1) return raster;
  return resizeRaster(
    raster,
    Math.max(1, Math.round(raster.width * scale)),
    Math.max(1, Math.round(raster.height * scale)),
  );
}

async function keepShown({ db }: TaskHost, raster: Raster, slot: Slot): Promise<string> {
  const shown = fitIn(raster, slot);
  return keepBlob(db, await encodePng(bleedColours({ ...shown, data: shown.data.slice() })), 'image/png');
}

/** A variant of the mark; without one its master in its own colours. */
async function dressedMark(host: TaskHost, { mark, rule }: LookTask, variant: string | null): Promise<Artwork> {
  const recipe = readRecipe(mark.recipe);
  const own = recipe.variants.find((v) => v.id === variant);
  if (own) return dressForWall(await drawVariantOf(host, mark, own.id), rule);
  const plain = variantOf(PLAIN, 'As it is', partOf(fills, 'asIs'));
  return dressForWall(
    await drawVariantOf(host, { ...mark, recipe: { ...recipe, variants: [...recipe.variants, plain] } }, PLAIN),
    rule,
  );
}
const PLAIN = 'as-it-is';

/** The variant that can be seen best here; null where none is better than what is shown. */
async function bestVariant(host: TaskHost, task: LookTask, ground: Ground): Promise<string | null> {
  const slot = slotOf(task.rule);
  const ids = readRecipe(task.mark.recipe).variants.map((v) => v.id);
  const standings = [];
  for (const id of ids) {
    const artwork = await dressedMark(host, task, id);
    standings.push(standingOn(fitIn(visibleOf(artwork, longOf(slot)), slot), ground));
  }
  const best = bestStanding(standings);
  return best >= 0 && ids[best] !== task.variant ? ids[best] : null;
}

export interface WallOutTask {
  readonly form: 'files' | 'picture' | 'pdf' | 'slots';
  readonly title: string;
  readonly rule: WallRule;
  readonly groundSha: string | null;
  readonly slots: readonly (SlotTask & { readonly title: string; readonly box: SlotBox })[];
}

/** A wall's files, or one of them, each read back. */
export async function makeWall(host: TaskHost, task: WallOutTask): Promise<MadeFile[]> {
  const slot = slotOf(task.rule);
  const photo = task.groundSha
    ? (await decodePicture((await readBlob(host.db, task.groundSha)).bytes, 'ground', FILE_PIXELS)).raster
    : null;
  const places = [];
  for (const own of task.slots) {
    const order = { ...own, rule: task.rule, groundSha: null, isOlder: false };
    const isWhole = own.shows !== 'mark';
    const artwork = isWhole ? await openFile(host, own, slot) : await dressedMark(host, order, own.variant);
    places.push({ file: own.file, title: own.title, artwork, isWhole, box: own.box });
  }
  const plan = { title: task.title, slot, ground: photo ?? rgbFromHex(task.rule.ground), places };
  if (task.form === 'files') return wallFiles(plan);
  if (task.form === 'slots') return slotPictures(plan);
  return [await (task.form === 'pdf' ? wallPdf : wallPicture)(plan)];
}

import type { Finding } from '../core/findings/finding';
import { type Inspection, inspectPicture } from '../core/inspect/inspectPicture';
import type { Raster } from '../core/raster/raster';
import { bleedColours } from '../core/raster/bleedColours';
import { makeFilePicture } from '../core/recipe/makeFilePicture';
import { proposeRecipe } from '../core/recipe/proposeRecipe';
import { type Recipe, type SizeLine, readRecipe } from '../core/recipe/recipe';
import { createStageCache, makeVariant, runStages } from '../core/recipe/runRecipe';
import { findExtents } from '../core/raster/extents';
import { resizeRaster } from '../core/raster/resize';
import { decodePicture } from '../codecs/decodePicture';
import { encodeDeliveryPng, encodeMasterPng } from '../codecs/encodePng';
import { type PngReceipt, clearShare, readBackPng } from '../codecs/readBackPng';
import { describeFindings, describeFound } from './describe';

/** A picture for a task: its bytes and a key that names them, so that a thread need not decode twice. */
export interface TaskPicture {
  readonly key: string;
  readonly png: Uint8Array;
  readonly reduction: number;
}

export interface FileTask {
  readonly picture: TaskPicture;
  readonly recipe: unknown;
  readonly line: SizeLine;
  readonly name: string;
}
export interface MadeFile {
  readonly png: Uint8Array;
  readonly receipt: PngReceipt & { clearShare: number; enlargement: number };
}

// Threads serve one task after another, so the newest decoded picture and its stage outputs are worth keeping.
const cache = createStageCache(4);
let decoded: { key: string; raster: Raster } | null = null;

async function openPicture(picture: TaskPicture): Promise<Raster> {
  const key = `${picture.key}@${picture.reduction}`;
  if (decoded?.key !== key) decoded = { key, raster: (await decodePicture(picture.png, 'picture.png')).raster };
  return decoded.raster;
}

/** One delivered file, written and read back. */
export async function makeFile({ picture, recipe: raw, line, name }: FileTask): Promise<MadeFile> {
  const recipe = readRecipe(raw);
  const raster = await openPicture(picture);
  const variant = recipe.variants.find((v) => v.id === line.variant);
  if (!variant) throw new Error(`No variant ${line.variant}`);
  const drawn = makeVariant(raster, recipe, variant, {
    pictureKey: picture.key,
    reduction: picture.reduction,
    cache,
    pictureOnly: true,
  });
  const extents = findExtents(drawn);
  const made = makeFilePicture(drawn, line);
  const png = await encodeDeliveryPng(made);
  const receipt = readBackPng(png, made, name);
  return {
    png,
    receipt: { ...receipt, clearShare: clearShare(made), enlargement: extents ? made.width / extents.width : 1 },
  };
}

export interface MasterTask {
  readonly picture: TaskPicture;
  readonly recipe: unknown;
}

/** The master on the picture's own grid. */
export async function makeMaster({ picture, recipe: raw }: MasterTask): Promise<Uint8Array> {
  const recipe = readRecipe(raw);
  const { master } = runStages(await openPicture(picture), recipe.stages, {
    pictureKey: picture.key,
    reduction: picture.reduction,
    cache,
  });
  const whole = bleedColours({ ...master.raster, data: master.raster.data.slice() }, master.within);
  const png = await encodeMasterPng(whole);
  readBackPng(png, whole, 'master');
  return png;
}

export interface ThumbnailResult {
  readonly png: Uint8Array;
  readonly findings: readonly Finding[];
}

/** The trimmed master at card size, and what was found on the way. */
export async function makeThumbnail({
  picture,
  recipe: raw,
  longestPx,
}: MasterTask & { longestPx: number }): Promise<ThumbnailResult> {
  const recipe = readRecipe(raw);
  const result = runStages(await openPicture(picture), recipe.stages, {
    pictureKey: picture.key,
    reduction: picture.reduction,
    cache,
  });
  const findings = describeFindings(result);
  const extents = findExtents(result.master.raster, undefined, result.master.within);
  if (!extents) return { png: await encodeMasterPng({ width: 1, height: 1, data: new Uint8Array(4) }), findings };
  const scale = Math.min(1, longestPx / Math.max(extents.width, extents.height));
  const aspect = extents.height / extents.width;
  const width = Math.max(1, Math.round(extents.width * scale));
  const trimmed = makeFilePicture(result.master.raster, { widthPx: Math.max(width, 1), paddingPct: 0, purpose: 'web' });
  const small =
    aspect > 12 ? resizeRaster(trimmed, Math.max(1, trimmed.width), Math.min(trimmed.height, longestPx)) : trimmed;
  return { png: await encodeMasterPng(small), findings };
}

export interface JudgeTask {
  readonly picture: Raster;
  readonly reduction: number;
}
export interface PictureJudgement {
  readonly seen: Inspection;
  readonly recipe: Recipe;
  readonly findings: readonly Finding[];
  readonly sentence: string;
  readonly markCount: number;
}

/** What a picture is, the recipe to start with, and what that makes of it. */
export async function judgePicture({ picture, reduction }: JudgeTask): Promise<PictureJudgement> {
  const seen = inspectPicture(picture);
  const { recipe, result, markCount } = proposeRecipe(picture, reduction, seen.way);
  return {
    seen,
    recipe,
    findings: result ? describeFindings(result) : [],
    sentence: describeFound(seen, recipe, result),
    markCount,
  };
}

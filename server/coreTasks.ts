import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import type { Drawing } from '../core/artwork/drawing';
import { readDrawing } from '../core/artwork/readDrawing';
import type { Finding } from '../core/findings/finding';
import { formats } from '../core/formats';
import type { FileReceipt } from '../core/formats/receipt';
import { type Inspection, inspectPicture } from '../core/inspect/inspectPicture';
import { bleedColours } from '../core/raster/bleedColours';
import type { Raster } from '../core/raster/raster';
import { extentsOf, makeFile as makeBytes, prepareFile } from '../core/recipe/makeFile';
import { proposeRecipe } from '../core/recipe/proposeRecipe';
import { type Recipe, type SizeLine, readRecipe } from '../core/recipe/recipe';
import { makeVariant, runStages } from '../core/recipe/runRecipe';
import { createStageCache } from '../core/recipe/stageCache';
import { LEAST_SIDE_PX } from '../core/sizes/size';
import { decodePicture } from '../codecs/decodePicture';
import { encodePng } from '../codecs/encodePng';
import { formatHost } from '../codecs/formatHost';
import { readBack } from '../codecs/readBack';
import { readBackPng } from '../codecs/readBackPng';
import { describeFindings, describeFound } from './describe';

/**
 * What stages start from, for a task: its bytes, and a key that names them, so that a thread need not open them twice.
 */
export interface TaskSource {
  readonly key: string;
  readonly kind: 'picture' | 'drawing';
  /** A PNG of the working picture or of a reduction, or the working drawing as JSON. */
  readonly bytes: Uint8Array;
  readonly reduction: number;
}

// Threads serve one task after another, so the newest opened source and its stage outputs are worth keeping.
const cache = createStageCache();
let opened: { key: string; artwork: Artwork } | null = null;

async function openSource({ key, kind, bytes, reduction }: TaskSource): Promise<Artwork> {
  const own = `${key}@${reduction}`;
  if (opened?.key !== own) {
    const artwork =
      kind === 'drawing'
        ? artworkOfDrawing(readDrawing(bytes), reduction)
        : artworkOfRaster((await decodePicture(bytes, 'picture.png')).raster, reduction);
    opened = { key: own, artwork };
  }
  return opened.artwork;
}

export interface FileTask {
  readonly source: TaskSource;
  readonly recipe: unknown;
  readonly line: SizeLine;
  /** For messages. */
  readonly name: string;
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
}
export interface MadeFile {
  readonly bytes: Uint8Array;
  readonly mediaType: string;
  readonly receipt: FileReceipt;
  /** Size of the page, px. */
  readonly widthPx: number;
  readonly heightPx: number;
}

/** One delivered file, written and read back. */
export async function makeFile({ source, recipe: raw, line, name, palette }: FileTask): Promise<MadeFile> {
  const recipe = readRecipe(raw);
  const variant = recipe.variants.find((v) => v.id === line.variant);
  if (!variant) throw new Error(`No variant ${line.variant}`);
  const artwork = await openSource(source);
  const drawn = makeVariant(
    artwork,
    recipe,
    variant,
    { pictureKey: source.key, cache, pictureOnly: true },
    { palette, density: null },
  );
  const made = await makeBytes(drawn, line, formatHost);
  const { extension, mimeType } = formats.get(line.format.id);
  const receipt = await readBack(made.bytes, made, extension, name);
  const { widthPx, heightPx } = made.content;
  return { bytes: made.bytes, mediaType: mimeType, receipt, widthPx, heightPx };
}

export interface MasterTask {
  readonly source: TaskSource;
  readonly recipe: unknown;
}

/** The master on its own grid. */
export async function makeMaster({ source, recipe: raw }: MasterTask): Promise<Uint8Array> {
  const recipe = readRecipe(raw);
  const { master } = runStages(await openSource(source), recipe.stages, { pictureKey: source.key, cache });
  const whole = bleedColours({ ...master.raster, data: master.raster.data.slice() }, master.within);
  const png = await encodePng(whole);
  readBackPng(png, whole, 'master');
  return png;
}

export interface ThumbnailResult {
  readonly png: Uint8Array;
  readonly findings: readonly Finding[];
}

/** The trimmed master at card size, and what was found on the way. */
export async function makeThumbnail({
  source,
  recipe: raw,
  longestPx,
}: MasterTask & { longestPx: number }): Promise<ThumbnailResult> {
  const recipe = readRecipe(raw);
  const result = runStages(await openSource(source), recipe.stages, { pictureKey: source.key, cache });
  const findings = describeFindings(result);
  const { master } = result;
  const extents = extentsOf(master);
  if (!extents) return { png: await encodePng({ width: 1, height: 1, data: new Uint8Array(4) }), findings };
  const own = Math.max(extents.width, extents.height) / master.reduction;
  const px = Math.max(LEAST_SIDE_PX, Math.floor(master.drawing ? longestPx : Math.min(longestPx, own)));
  const size = { id: 'longEdge', params: { px, paddingPct: 0 } };
  const { content } = prepareFile(master, { size, format: { id: 'png', params: {} } });
  return { png: await encodePng(content.raster as Raster), findings };
}

export interface JudgeTask {
  /** Reduced as it may be, or a drawing. */
  readonly picture: Raster | Drawing;
  readonly reduction: number;
}
export interface PictureJudgement {
  readonly seen: Inspection;
  readonly recipe: Recipe;
  readonly findings: readonly Finding[];
  readonly sentence: string;
  readonly markCount: number;
}

/** What a picture or drawing is, the recipe to start with, and what that makes of it. */
export async function judgePicture({ picture, reduction }: JudgeTask): Promise<PictureJudgement> {
  const artwork = 'shapes' in picture ? artworkOfDrawing(picture, reduction) : artworkOfRaster(picture, reduction);
  const seen = inspectPicture(artwork.raster);
  const way = artwork.drawing ? 'transparent' : seen.way;
  const { recipe, result, markCount } = proposeRecipe(artwork, reduction, way);
  return {
    seen,
    recipe,
    findings: result ? describeFindings(result) : [],
    sentence: describeFound(seen, recipe, result),
    markCount,
  };
}

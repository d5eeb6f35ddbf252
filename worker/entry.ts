import { contrastOnColour, measureLuminance } from '../core/colour/contrast';
import { hexFromRgb, rgbFromHex } from '../core/colour/hex';
import { CoreError, isCoreError } from '../core/errors';
import type { RectPx } from '../core/params';
import { cropRaster } from '../core/raster/cropRaster';
import { findExtents } from '../core/raster/extents';
import { type Raster, matteOf } from '../core/raster/raster';
import { findSheet } from '../core/inspect/findSheet';
import { type RunOptions, createStageCache, cutOutFacts, makeVariant, runStages } from '../core/recipe/runRecipe';
import { takeWholeSheet } from '../core/recipe/takeMark';
import type { StageValues } from '../core/stages';
import { findMatteMarks } from '../core/ink/matteMarks';
import { type MarkFact, marksOf } from '../core/stages/cutOutFacts';
import { toMarkFact } from '../core/stages/paperWay';
import { decodePng } from './decodePng';
import type {
  Answers,
  Candidates,
  Envelope,
  GroundSource,
  Opened,
  PictureSource,
  Probe,
  Reply,
  Request,
  StagesDone,
  VariantDone,
} from './protocol';

// The entry of a browser worker: one picture, one request after another.
const scope = self as unknown as {
  onmessage: ((e: MessageEvent<Envelope>) => void) | null;
  postMessage(m: Reply, transfer: Transferable[]): void;
};
const cache = createStageCache(4);
const photoColours = new Map<string, Promise<readonly [number, number, number]>>();
let picture: { raster: Raster; source: PictureSource } | null = null;

scope.onmessage = ({ data: { id, request } }) => {
  void answer(request).then(
    ({ value, transfer }) => scope.postMessage({ id, ok: true, value }, transfer),
    (error: unknown) => {
      const known = isCoreError(error)
        ? error
        : new CoreError('server/internal', error instanceof Error ? error.message : String(error));
      scope.postMessage(
        { id, ok: false, error: { code: known.code, message: known.message, details: known.details } },
        [],
      );
    },
  );
};

async function answer(request: Request): Promise<{ value: Answers[keyof Answers]; transfer: Transferable[] }> {
  if (request.type === 'open') {
    const value = await open(request.source);
    return { value, transfer: [value.original] };
  }
  if (!picture) throw new Error('No picture is open');
  const run = { pictureKey: picture.source.key, reduction: picture.source.reduction, cache };
  if (request.type === 'stages') {
    const value = await runAll(picture.raster, request.values, request.grounds, run);
    return { value, transfer: [value.result, value.cropped].filter((b) => b !== null) };
  }
  if (request.type === 'matte') {
    const { master } = runStages(picture.raster, request.values, run);
    const value = await toBitmap(greyFrom(master.raster));
    return { value, transfer: [value] };
  }
  if (request.type === 'candidates') {
    const value = await findCandidates(picture.raster, request.values, run);
    return { value, transfer: value.sheet ? [value.sheet] : [] };
  }
  if (request.type === 'probe') return { value: probe(picture.raster, request, run), transfer: [] };
  if (request.type === 'master') {
    const { raster } = runStages(picture.raster, request.values, run).master;
    const data = raster.data.slice();
    return { value: { width: raster.width, height: raster.height, data }, transfer: [data.buffer] };
  }
  const value: VariantDone[] = [];
  for (const variant of request.recipe.variants) {
    const drawn = makeVariant(picture.raster, request.recipe, variant, run);
    value.push(await showVariant(variant.id, drawn, request.grounds, run.reduction));
  }
  return { value, transfer: value.flatMap((v) => (v.bitmap ? [v.bitmap] : [])) };
}

async function open(source: PictureSource): Promise<Opened> {
  const response = await fetch(source.url);
  if (!response.ok) throw new CoreError('store/not-found', 'The picture could not be loaded. Reload the page.');
  const raster = await decodePng(new Uint8Array(await response.arrayBuffer()));
  picture = { raster, source };
  return { width: raster.width, height: raster.height, original: await toBitmap(raster) };
}

async function runAll(
  raster: Raster,
  values: Parameters<typeof runStages>[1],
  grounds: readonly GroundSource[],
  run: Parameters<typeof runStages>[2],
): Promise<StagesDone> {
  const began = performance.now();
  const result = runStages(raster, values, run);
  const { master, perStage } = result;
  const cropped = perStage.crop.picture.raster;
  const ms = performance.now() - began;
  const visible = findExtents(master.raster, undefined, master.within);
  return {
    result: visible && (await toBitmap(cropRaster(master.raster, visible))),
    cropped: cropped === raster ? null : await toBitmap(cropped),
    frame: { width: master.raster.width * run.reduction, height: master.raster.height * run.reduction },
    toWorking: master.toWorking,
    extents: visible && scaleRect(visible, run.reduction),
    facts: cutOutFacts(result),
    findings: result.findings,
    contrast: grounds.length ? await measureContrast(master.raster, grounds) : {},
    ms,
  };
}

const scaleRect = (r: RectPx, by: number): RectPx => ({
  x: r.x * by,
  y: r.y * by,
  width: r.width * by,
  height: r.height * by,
});

/** The marks of the whole sheet, whatever is cropped at the moment. */
async function findCandidates(raster: Raster, values: StageValues, run: RunOptions): Promise<Candidates> {
  const whole = takeWholeSheet(values);
  // A sheet is looked for where there is paper: a light plate in a logo is none.
  const corners = values.crop.corners || values.cutOut.way !== 'paper' ? null : findSheet(raster, run.reduction);
  // Where no ink is found there is simply nothing to offer.
  let found: ReturnType<typeof runStages> | null = null;
  try {
    found = runStages(raster, whole, run);
  } catch (error) {
    if (!isCoreError(error)) throw error;
  }
  const sheet = found?.perStage.crop.picture.raster ?? raster;
  return {
    sheet: sheet === raster ? null : await toBitmap(sheet),
    width: sheet.width * run.reduction,
    height: sheet.height * run.reduction,
    marks: found ? listMarks(found) : [],
    corners,
  };
}

// On paper they were found on the way; a cut-out from a flat ground is searched for groups that stand apart. Logos stand upright.
function listMarks(found: ReturnType<typeof runStages>): readonly MarkFact[] {
  const facts = cutOutFacts(found);
  if (facts.way !== 'flat') return marksOf(facts);
  return findMatteMarks(found.master.raster).map((m) => ({
    ...toMarkFact(m, found.master),
    angleDeg: 0,
    region: toMarkFact({ ...m, region: m.box }, found.master).region,
  }));
}

function probe(raster: Raster, { values, x, y }: Extract<Request, { type: 'probe' }>, run: RunOptions): Probe | null {
  const result = runStages(raster, values, run);
  const cropped = result.perStage.crop.picture.raster;
  const [px, py] = [Math.floor(x / run.reduction), Math.floor(y / run.reduction)];
  if (px < 0 || py < 0 || px >= cropped.width || py >= cropped.height) return null;
  const s = (py * cropped.width + px) * 4;
  const out = result.master.raster.data;
  const facts = cutOutFacts(result);
  return {
    original: hexFromRgb(cropped.data.subarray(s, s + 3)),
    ground: facts.way === 'flat' ? facts.groundHex : facts.way === 'paper' ? facts.paperHex : null,
    unmixed: out[s + 3] > 0 ? hexFromRgb(out.subarray(s, s + 3)) : null,
    alpha: out[s + 3] / 255,
  };
}

async function showVariant(
  id: string,
  drawn: Raster,
  grounds: readonly GroundSource[],
  reduction: number,
): Promise<VariantDone> {
  const extents = findExtents(drawn);
  if (!extents) return { id, bitmap: null, width: 0, height: 0, contrast: {} };
  const trimmed = cropRaster(drawn, extents);
  return {
    id,
    bitmap: await toBitmap(trimmed),
    width: extents.width * reduction,
    height: extents.height * reduction,
    contrast: await measureContrast(trimmed, grounds),
  };
}

async function measureContrast(mark: Raster, grounds: readonly GroundSource[]): Promise<Record<string, number>> {
  const found: Record<string, number> = {};
  const profile = measureLuminance(mark);
  for (const g of grounds) {
    const colour = g.hex ? rgbFromHex(g.hex) : g.url ? await meanColour(g.url) : null;
    if (colour) found[g.id] = contrastOnColour(profile, colour);
  }
  return found;
}

function meanColour(url: string): Promise<readonly [number, number, number]> {
  let found = photoColours.get(url);
  if (!found) {
    found = measureMean(url);
    photoColours.set(url, found);
    found.catch(() => photoColours.delete(url));
  }
  return found;
}

async function measureMean(url: string): Promise<readonly [number, number, number]> {
  const SIDE = 32;
  const bitmap = await createImageBitmap(await (await fetch(url)).blob(), {
    resizeWidth: SIDE,
    resizeHeight: SIDE,
    resizeQuality: 'medium',
  });
  const context = new OffscreenCanvas(SIDE, SIDE).getContext('2d') as OffscreenCanvasRenderingContext2D;
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, SIDE, SIDE);
  const sum = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) for (let c = 0; c < 3; c++) sum[c] += data[i + c];
  return sum.map((v) => Math.round(v / (SIDE * SIDE))) as unknown as readonly [number, number, number];
}

function greyFrom(raster: Raster): Raster {
  const { width, height, data } = matteOf(raster);
  const out = new Uint8Array(width * height * 4);
  for (let i = 0, s = 0; i < data.length; i++, s += 4) {
    out[s] = out[s + 1] = out[s + 2] = data[i];
    out[s + 3] = 255;
  }
  return { width, height, data: out };
}

const toBitmap = (raster: Raster): Promise<ImageBitmap> =>
  createImageBitmap(
    new ImageData(
      new Uint8ClampedArray(raster.data.buffer as ArrayBuffer, raster.data.byteOffset, raster.data.length),
      raster.width,
      raster.height,
    ),
  );

import { type Artwork, artworkOfDrawing, artworkOfRaster, withDrawing } from '../core/artwork/artwork';
import { boundsOfDrawing } from '../core/artwork/drawing';
import { readDrawing } from '../core/artwork/readDrawing';
import { hexFromRgb } from '../core/colour/hex';
import { CoreError, isCoreError } from '../core/errors';
import { invertProjective } from '../core/geometry/projective';
import type { RectPx } from '../core/params';
import { cropRaster } from '../core/raster/cropRaster';
import { findExtents } from '../core/raster/extents';
import { type Variant, partOf } from '../core/recipe/recipe';
import { fills } from '../core/fills';
import { formats } from '../core/formats';
import { treated } from '../core/recipe/fileOrder';
import { makePage } from './makePage';
import { masterStrokes } from '../core/recipe/thinLines';
import { extentsOf } from '../core/artwork/extentsOf';
import { type MasterResult, type RunOptions, cutOutFacts, makeVariant, runStages } from '../core/recipe/runRecipe';
import { createStageCache } from '../core/recipe/stageCache';
import { type StageId, stageIds } from '../core/stages';
import { findPalette } from '../core/trace/findPalette';
import { colourBeside } from '../core/tidy/colourBeside';
import { greyFrom, raisedFrom, toBead, toBitmap } from './bitmaps';
import { decodePng } from './decodePng';
import { findCandidates } from './findCandidates';
import { measureContrast } from './measureContrast';
import type {
  Answers,
  ArtworkShown,
  Envelope,
  GroundSource,
  Opened,
  Probe,
  Reply,
  Request,
  StageShown,
  StagesDone,
  VariantDone,
  WorkSource,
} from './protocol';

// The entry of a browser worker: one picture or drawing, one request after another.
const scope = self as unknown as {
  onmessage: ((e: MessageEvent<Envelope>) => void) | null;
  postMessage(m: Reply, transfer: Transferable[]): void;
};
const cache = createStageCache();
/** What every bead was last drawn from: those that did not change are not sent again. */
const beadOf = new Map<StageId, Artwork>();
/** Variants as they were last drawn: those that did not change are not drawn anew. */
const drawnVariants = new Map<string, Artwork>();
let opened: { artwork: Artwork; source: WorkSource } | null = null;

scope.onmessage = ({ data: { id, request, stop } }) => {
  void answer(request, stop, stepsOf(id)).then(
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

/** Steps are told so often at most. */
const STEP_MS = 150;

/** Tells how far long work is. */
function stepsOf(id: number): NonNullable<RunOptions['onStep']> {
  let last = performance.now();
  return (name, share) => {
    const now = performance.now();
    if (share === undefined || now - last < STEP_MS) return;
    last = now;
    scope.postMessage({ id, step: { name, share } }, []);
  };
}

interface Answer {
  readonly value: Answers[keyof Answers];
  readonly transfer: Transferable[];
}

async function answer(
  request: Request,
  stop: SharedArrayBuffer | undefined,
  onStep: RunOptions['onStep'],
): Promise<Answer> {
  if (request.type === 'open') {
    const value = await open(request.source);
    return { value, transfer: [value.original] };
  }
  if (!opened) throw new Error('No picture is open');
  const { artwork, source } = opened;
  const shouldStop = () => stop !== undefined && Atomics.load(new Int32Array(stop), 0) !== 0;
  const run: RunOptions = { pictureKey: source.key, cache, shouldStop, onStep };
  switch (request.type) {
    case 'stages': {
      const value = await runAll(artwork, request, run);
      return { value, transfer: bitmapsIn(value) };
    }
    case 'matte': {
      const result = runStages(artwork, request.values, run);
      const { raster } = artworkAfter(result, request.open);
      const value = await toBitmap(request.isRaised ? raisedFrom(raster) : greyFrom(raster));
      return { value, transfer: [value] };
    }
    case 'candidates': {
      const value = await findCandidates(artwork, request, run);
      return { value, transfer: value.sheet ? [value.sheet] : [] };
    }
    case 'beside': {
      const { raster, toWorking } = runStages(artwork, request.values, run).master;
      return { value: colourBeside(raster, request.points, invertProjective(toWorking)), transfer: [] };
    }
    case 'probe':
      return { value: probe(artwork, request, run), transfer: [] };
    case 'colours': {
      const { raster } = runStages(artwork, request.values, run).master;
      return { value: findPalette(raster, null).colours.map((c) => hexFromRgb(c.rgb.map(Math.round))), transfer: [] };
    }
    case 'strokes':
      return { value: masterStrokes(runStages(artwork, request.values, run).master), transfer: [] };
    case 'master': {
      const { raster } = runStages(artwork, request.values, run).master;
      const data = raster.data.slice();
      return { value: { width: raster.width, height: raster.height, data }, transfer: [data.buffer] };
    }
    case 'page': {
      const { recipe, order, palette } = request;
      const variant = recipe.variants.find((v) => v.id === request.variant) as Variant;
      const asPaths = formats.get(order.format.id).accepts === 'paths';
      const context = { palette };
      const drawn = makeVariant(artwork, recipe, treated(variant, order), { ...run, asPaths }, context);
      const value = await makePage(drawn, order);
      return { value, transfer: [value.bitmap] };
    }
    case 'variants': {
      const value: VariantDone[] = [];
      const context = { palette: request.palette };
      const before = new Map(drawnVariants);
      drawnVariants.clear();
      const draw = (variant: Pick<Variant, 'fill' | 'surrounds' | 'casts'>) => {
        const { fill, surrounds, casts } = variant;
        const key = JSON.stringify([source.key, request.recipe.stages, fill, surrounds, casts]);
        const drawn = before.get(key) ?? makeVariant(artwork, request.recipe, variant, run, context);
        drawnVariants.set(key, drawn);
        return drawn;
      };
      for (const variant of request.recipe.variants)
        value.push(await showVariant(variant.id, draw(variant), request.grounds));
      const ofOneColour = request.recipe.variants.flatMap((v, k) => (v.fill.id === 'oneColour' ? [k] : []));
      if (ofOneColour.length > 0) {
        const [open, filled] = ['open', 'filled'].map((insides) => {
          const fill = partOf(fills, 'oneColour', { insides });
          return inkOf(draw({ fill, surrounds: [], casts: [] }));
        });
        for (const k of ofOneColour) value[k] = { ...value[k], hasLightInsides: open < filled * (1 - LIGHT_INSIDES) };
      }
      return { value, transfer: value.flatMap((v) => (v.bitmap ? [v.bitmap] : [])) };
    }
  }
}

/** So much less ink with light areas left open: the mark has some. */
const LIGHT_INSIDES = 1e-4;
function inkOf({ raster: { data } }: Artwork): number {
  let sum = 0;
  for (let p = 3; p < data.length; p += 4) sum += data[p];
  return sum;
}

async function open(source: WorkSource): Promise<Opened> {
  const response = await fetch(source.url);
  if (!response.ok) throw new CoreError('store/not-found', 'The picture could not be loaded. Reload the page.');
  const bytes = new Uint8Array(await response.arrayBuffer());
  const artwork =
    source.kind === 'drawing'
      ? artworkOfDrawing(readDrawing(bytes), source.reduction)
      : artworkOfRaster(await decodePng(bytes), source.reduction);
  opened = { artwork, source };
  beadOf.clear();
  const { raster } = artwork;
  return { width: raster.width, height: raster.height, original: await toBitmap(raster) };
}

const artworkAfter = (result: MasterResult, stage: StageId | null): Artwork =>
  stage === null ? result.master : result.perStage[stage].artwork;

/** Where the trace is open its outlines are shown, also where they are for vector files alone. */
function lookedAt(result: MasterResult, stage: StageId | null): Artwork {
  const artwork = artworkAfter(result, stage);
  return stage === 'trace' && artwork.outlines ? withDrawing(artwork, artwork.outlines) : artwork;
}

async function runAll(
  source: Artwork,
  { values, grounds, open: stage, hasBeads }: Extract<Request, { type: 'stages' }>,
  run: RunOptions,
): Promise<StagesDone> {
  const began = performance.now();
  const result = runStages(source, values, run);
  const ms = performance.now() - began;
  const { master, perStage } = result;
  const shown = lookedAt(result, stage);
  // Outlines are held against the pixels they were drawn from.
  const before = stage === 'trace' && perStage.trace.artwork !== perStage.tidy.artwork ? 'tidy' : 'crop';
  const cropped = perStage[before].artwork.raster;
  const shownMaster = await show(master);
  return {
    shown: shown === master ? shownMaster : await show(shown),
    master: shown === master ? null : shownMaster,
    cropped: cropped === source.raster ? null : await toBitmap(cropped),
    perStage: Object.fromEntries(
      await Promise.all(stageIds.map(async (id) => [id, await showStage(id, result, hasBeads)] as const)),
    ) as Record<StageId, StageShown>,
    facts: cutOutFacts(result),
    findings: result.findings,
    contrast: grounds.length ? await measureContrast(master.raster, grounds) : {},
    ms,
  };
}

async function showStage(id: StageId, result: MasterResult, hasBeads: boolean): Promise<StageShown> {
  const { artwork, findings, facts } = result.perStage[id];
  const isChanged = hasBeads && beadOf.get(id) !== artwork;
  if (isChanged) beadOf.set(id, artwork);
  return { bead: isChanged ? await toBead(artwork) : undefined, findings, facts };
}

async function show(artwork: Artwork): Promise<ArtworkShown> {
  const { raster, within, reduction, toWorking } = artwork;
  const visible = findExtents(raster, undefined, within);
  return {
    bitmap: visible && (await toBitmap(cropRaster(raster, visible))),
    frame: { width: raster.width * reduction, height: raster.height * reduction },
    toWorking,
    extents: visible && scaleRect(visible, reduction),
    exactExtents: extentsOf(artwork),
    hasPaths: artwork.drawing !== null,
    outlineExtents: artwork.outlines ? boundsOfDrawing(artwork.outlines) : null,
  };
}

const bitmapsIn = ({ shown, master, cropped, perStage }: StagesDone): ImageBitmap[] =>
  [shown.bitmap, master?.bitmap, cropped, ...Object.values(perStage).map((s) => s.bead)].filter(
    (b): b is ImageBitmap => b !== null && b !== undefined,
  );

const scaleRect = (r: RectPx, by: number): RectPx => ({
  x: r.x * by,
  y: r.y * by,
  width: r.width * by,
  height: r.height * by,
});

function probe(source: Artwork, { values, x, y }: Extract<Request, { type: 'probe' }>, run: RunOptions): Probe | null {
  const result = runStages(source, values, run);
  const cropped = result.perStage.crop.artwork.raster;
  const [px, py] = [Math.floor(x / source.reduction), Math.floor(y / source.reduction)];
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

async function showVariant(id: string, drawn: Artwork, grounds: readonly GroundSource[]): Promise<VariantDone> {
  const visible = findExtents(drawn.raster, undefined, drawn.within);
  if (!visible) return { id, bitmap: null, width: 0, height: 0, contrast: {} };
  const trimmed = cropRaster(drawn.raster, visible);
  return {
    id,
    bitmap: await toBitmap(trimmed),
    width: visible.width * drawn.reduction,
    height: visible.height * drawn.reduction,
    contrast: await measureContrast(trimmed, grounds),
  };
}

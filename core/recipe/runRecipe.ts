import { type Artwork, artworkOfRaster, withDrawing } from '../artwork/artwork';
import { CoreError } from '../errors';
import type { Finding } from '../findings/finding';
import { fills } from '../fills';
import { casts } from '../casts';
import type { Raster } from '../raster/raster';
import { extentsOf } from '../artwork/extentsOf';
import { type Decoration, type DecorationContext, PX_PER_MM } from '../decoration';
import { type StageId, type StageValues, stageIds, stages } from '../stages';
import type { CutOutFacts } from '../stages/cutOutFacts';
import type { StageContext, StageDefinition, StageResult } from '../stages/stage';
import { surrounds } from '../surrounds';
import type { Part, Recipe, Variant } from './recipe';
import type { StageCache } from './stageCache';

export interface MasterResult {
  readonly master: Artwork;
  readonly perStage: Record<StageId, StageResult>;
  readonly findings: readonly Finding[];
}

export interface RunOptions {
  /** Names the picture, so that outputs of different pictures are never mixed up. */
  readonly pictureKey: string;
  /** Full size over a picture's size, where a picture is given: 1 for the working picture, more for a reduced one. */
  readonly reduction?: number;
  readonly cache?: StageCache;
  readonly onStep?: StageContext['onStep'];
  /** Saves the time to look for faults; the findings are then not complete. */
  readonly pictureOnly?: boolean;
  /** Lists among the facts hold everything, however much. */
  readonly listsAll?: boolean;
  /**
   * The picture is not needed any more, so its memory may take the result. Not for a picture that is kept anywhere, nor
   * with a cache.
   */
  readonly consumes?: boolean;
  readonly shouldStop?: StageContext['shouldStop'];
  /** For a vector file: outlines that are kept for such alone take the place of pixels. */
  readonly asPaths?: boolean;
}

/** What stages start from: a drawing or a picture as artwork, or simply a picture. */
export type Source = Artwork | Raster;

const isArtwork = (source: Source): source is Artwork => 'raster' in source;

/**
 * Runs all stages.
 * @param source  the working picture or drawing, or a reduction of it; not changed
 * @throws CoreError as the stages do, 'work/stopped' when told to stop
 */
export function runStages(source: Source, values: StageValues, options: RunOptions): MasterResult {
  let current = isArtwork(source) ? source : artworkOfRaster(source, options.reduction ?? 1);
  let key = `${options.pictureKey}@${current.reduction}`;
  // The picture's memory may take the result only where no later stage looks back at it.
  const looksBack = stageIds.some((id) => stages.get(id).needsOriginal?.(values[id] as never));
  const ctx = contextOf({ ...options, consumes: options.consumes && !looksBack });
  let cut: StageContext['cut'] = null;
  const perStage = {} as Record<StageId, StageResult>;
  const findings: Finding[] = [];
  for (const id of stageIds) {
    const stage = stages.get(id);
    key = `${key}|${id}${stage.version}${JSON.stringify(values[id])}`;
    // A result with findings serves who does not ask for them, not the other way round.
    const own = `${key}${options.pictureOnly ? '|picture' : ''}${options.listsAll ? '|all' : ''}`;
    let result = options.cache?.get(own) ?? (options.listsAll ? undefined : options.cache?.get(key));
    if (!result) {
      result = runStage(stage, current, values[id], { ...ctx, cut });
      options.cache?.set(own, result);
    }
    if (stage.opened) cut = cutContextOf(stage, current, values[id], ctx);
    perStage[id] = result;
    findings.push(...result.findings);
    current = result.artwork;
  }
  return { master: current, perStage, findings };
}

const cutContextOf = (
  stage: StageDefinition,
  original: Artwork,
  params: object,
  ctx: Omit<StageContext, 'cut'>,
): StageContext['cut'] => ({
  original,
  opened: () => {
    const open = stage.opened?.(params as never) ?? params;
    return runStage(stage, original, open, { ...ctx, consumes: false, pictureOnly: true, cut: null }).artwork;
  },
});

function contextOf(options: RunOptions): Omit<StageContext, 'cut'> {
  const shouldStop = options.shouldStop ?? (() => false);
  const onStep = options.onStep ?? (() => {});
  return {
    shouldStop,
    onStep: (name, share) => {
      if (shouldStop()) throw new CoreError('work/stopped', 'Stopped: nobody waits for it any more.');
      onStep(name, share);
    },
    pictureOnly: options.pictureOnly ?? false,
    listsAll: options.listsAll ?? false,
    consumes: options.consumes ?? false,
  };
}

function runStage(stage: StageDefinition, input: Artwork, params: object, ctx: StageContext): StageResult {
  ctx.onStep(stage.id);
  // The one cast: values were checked against this very stage's fields when the recipe was read.
  const result = stage.run(input, params as never, ctx);
  if (!input.drawing || result.artwork.drawing) return result;
  return { ...result, findings: [...result.findings, pathsEnded(stage)] };
}

const pathsEnded = (stage: StageDefinition): Finding => ({
  id: 'paths-ended',
  stage: stage.id,
  weight: 'note',
  title: 'paths end here',
  detail:
    `${stage.title} works on pixels with these settings, so from here on the mark has no ` +
    'paths: vector files cannot be made of it.',
  places: [],
});

/** The stage settings that make the master with every enclosed area open. */
export function withAllOpen(values: StageValues): StageValues {
  const opened = stageIds.map((id) => {
    const { opened: open } = stages.get(id);
    return [id, open ? open(values[id] as never) : values[id]];
  });
  return Object.fromEntries(opened) as unknown as StageValues;
}

/** What fills, surrounds and casts may ask for beside the artwork. */
export type VariantContext = Pick<DecorationContext, 'palette'> &
  Partial<Pick<DecorationContext, 'pxLength' | 'mmLength'>>;
const PLAIN: VariantContext = { palette: [] };

/**
 * A variant of the master at the size of the source given: fill, then surrounds, then casts, each in its order.
 * @throws CoreError as the stages do
 */
export function makeVariant(
  source: Source,
  recipe: Pick<Recipe, 'stages'>,
  variant: Pick<Variant, 'fill' | 'surrounds' | 'casts'>,
  options: RunOptions,
  context: VariantContext = PLAIN,
): Artwork {
  const fill = fills.get(variant.fill.id);
  const needsOpen = fill.needsOpenMaster?.(variant.fill.params as never) ?? false;
  const { master: made } = runStages(source, needsOpen ? withAllOpen(recipe.stages) : recipe.stages, options);
  const master = options.asPaths && made.outlines ? withDrawing(made, made.outlines) : made;
  return decorate(master, variant, context);
}

/** A master with a variant's fill, surrounds and casts, one after another. */
export function decorate(
  master: Artwork,
  variant: Pick<Variant, 'fill' | 'surrounds' | 'casts'>,
  context: VariantContext = PLAIN,
): Artwork {
  const ctx = { pxLength: 1, mmLength: PX_PER_MM, markHeightPx: 0, ...context };
  const apply = (artwork: Artwork, definition: Decoration, part: Part) =>
    definition.apply(artwork, part.params as never, { ...ctx, reduction: artwork.reduction });
  let artwork = apply(master, fills.get(variant.fill.id), variant.fill);
  if (variant.surrounds.length + variant.casts.length > 0) ctx.markHeightPx = extentsOf(artwork)?.height ?? 0;
  for (const part of variant.surrounds) artwork = apply(artwork, surrounds.get(part.id), part);
  for (const part of variant.casts) artwork = apply(artwork, casts.get(part.id), part);
  return artwork;
}

/** The part at which a variant's paths end, and why; null where they stay paths. */
export function pathsEndAt(
  variant: Pick<Variant, 'fill' | 'surrounds' | 'casts'>,
): { title: string; why: string } | null {
  const parts: Decoration[] = [
    fills.get(variant.fill.id),
    ...variant.surrounds.map((p) => surrounds.get(p.id)),
    ...variant.casts.map((p) => casts.get(p.id)),
  ];
  const found = parts.find((d) => d.endsPaths);
  return found ? { title: found.title, why: found.endsPaths as string } : null;
}

/** A variant as a sentence: fill, surrounds, casts. */
export function describeVariant(variant: Pick<Variant, 'fill' | 'surrounds' | 'casts'>): string {
  return [
    fills.get(variant.fill.id).describe(variant.fill.params as never),
    ...variant.surrounds.map((part) => surrounds.get(part.id).describe(part.params as never)),
    ...variant.casts.map((part) => casts.get(part.id).describe(part.params as never)),
  ].join(', ');
}

export const cutOutFacts = (result: MasterResult): CutOutFacts => result.perStage.cutOut.facts as CutOutFacts;

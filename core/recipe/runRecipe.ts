import type { Finding } from '../findings/finding';
import { fills } from '../fills';
import { scaling } from '../geometry/matrix';
import { fromMatrix } from '../geometry/projective';
import type { Raster } from '../raster/raster';
import { type StageId, type StageValues, stageIds, stages } from '../stages';
import type { CutOutFacts } from '../stages/cutOutFacts';
import type { StageContext, StagePicture, StageResult } from '../stages/stage';
import { surrounds } from '../surrounds';
import type { Recipe, Variant } from './recipe';

/** Keeps stage outputs by the key of what went in. Hosts decide how many to hold. */
export interface StageCache {
  get(key: string): StageResult | undefined;
  set(key: string, result: StageResult): void;
}

/** A cache of the newest few outputs: enough to go back and forth between two settings. */
export function createStageCache(most = 6): StageCache {
  const held = new Map<string, StageResult>();
  return {
    get(key) {
      const found = held.get(key);
      if (found) {
        held.delete(key);
        held.set(key, found);
      }
      return found;
    },
    set(key, result) {
      held.set(key, result);
      while (held.size > most) held.delete(held.keys().next().value as string);
    },
  };
}

export interface MasterResult {
  readonly master: StagePicture;
  readonly perStage: Record<StageId, StageResult>;
  readonly findings: readonly Finding[];
}

export interface RunOptions {
  /** Names the picture, so that outputs of different pictures are never mixed up. */
  readonly pictureKey: string;
  /** Full size over this picture's size: 1 for the working picture, more for a reduced one. */
  readonly reduction: number;
  readonly cache?: StageCache;
  readonly onStep?: StageContext['onStep'];
  /** Saves the time to look for faults; the findings are then not complete. */
  readonly pictureOnly?: boolean;
  /** The picture is not needed any more, so its memory may take the result. Not for a picture that is kept anywhere, nor with a cache. */
  readonly consumes?: boolean;
}

/**
 * Runs all stages on a picture.
 * @param picture  the working picture or a reduction of it; not changed
 * @throws CoreError as the stages do
 */
export function runStages(picture: Raster, values: StageValues, options: RunOptions): MasterResult {
  let current: StagePicture = {
    raster: picture,
    toWorking: fromMatrix(scaling(options.reduction)),
    reduction: options.reduction,
  };
  let key = `${options.pictureKey}@${options.reduction}`;
  const perStage = {} as Record<StageId, StageResult>;
  const findings: Finding[] = [];
  for (const id of stageIds) {
    const stage = stages.get(id);
    key = `${key}|${id}${stage.version}${JSON.stringify(values[id])}`;
    // A result with findings serves who does not ask for them, not the other way round.
    const own = options.pictureOnly ? `${key}|picture` : key;
    let result = options.cache?.get(key) ?? options.cache?.get(own);
    if (!result) {
      // The one cast: values were checked against this very stage's fields when the recipe was read.
      result = stage.run(current, values[id] as never, {
        onStep: options.onStep ?? (() => {}),
        pictureOnly: options.pictureOnly ?? false,
        consumes: options.consumes ?? false,
      });
      options.cache?.set(own, result);
    }
    perStage[id] = result;
    findings.push(...result.findings);
    current = result.picture;
  }
  return { master: current, perStage, findings };
}

/** The stage settings that make the master with every enclosed area open. */
export const withAllOpen = (values: StageValues): StageValues => ({
  ...values,
  cutOut: { ...values.cutOut, areas: [], enclosed: 'open' },
});

/**
 * A variant of the master at the size of the picture given.
 * @throws CoreError as the stages do
 */
export function makeVariant(picture: Raster, recipe: Recipe, variant: Variant, options: RunOptions): Raster {
  const fill = fills.get(variant.fill.id);
  const values = fill.needsOpenMaster(variant.fill.params) ? withAllOpen(recipe.stages) : recipe.stages;
  const { master } = runStages(picture, values, options);
  const filled = fill.apply(master.raster, variant.fill.params);
  return surrounds.get(variant.surround.id).apply(filled, variant.surround.params);
}

/** A variant as a sentence: fill, then surround. */
export function describeVariant(variant: Variant): string {
  const fill = fills.get(variant.fill.id).describe(variant.fill.params);
  return variant.surround.id === 'none'
    ? fill
    : `${fill}, ${surrounds.get(variant.surround.id).describe(variant.surround.params)}`;
}

export const cutOutFacts = (result: MasterResult): CutOutFacts => result.perStage.cutOut.facts as CutOutFacts;

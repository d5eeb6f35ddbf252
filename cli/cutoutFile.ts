import { basename } from 'node:path';
import { solidArtwork } from '../core/artwork/inkPlanes';
import { CoreError } from '../core/errors';
import { loadKernels, warmMemory } from '../core/kernels/heap';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { cropRaster } from '../core/raster/cropRaster';
import { bleedColours } from '../core/raster/bleedColours';
import { findExtents, isVisible } from '../core/raster/extents';
import type { Raster } from '../core/raster/raster';
import type { Recipe } from '../core/recipe/recipe';
import { cutOutWayOf } from '../core/recipe/proposeRecipe';
import { type MasterResult, cutOutFacts, runStages } from '../core/recipe/runRecipe';
import { marksOf } from '../core/stages/cutOutFacts';
import { type DecodedPicture, decodePicture } from '../codecs/decodePicture';
import { encodePng } from '../codecs/encodePng';
import { readBackPng } from '../codecs/readBackPng';
import { namingNow, readInput, writeWhole } from './command';
import { isSolid } from './penSettings';

/** One cut-out, as plain values: it travels to worker threads. */
export interface CutoutJob {
  readonly input: string;
  readonly output: string;
  readonly way: 'auto' | 'flat' | 'paper';
  readonly recipe: Recipe;
  readonly hasOwnRecipe: boolean;
  readonly trim: boolean;
  /** The id of a format of pixels. */
  readonly format: string;
  /** A width, or an exact box, px; null for the picture's own grid. */
  readonly size: { readonly width: number; readonly height: number | null } | null;
  /** Number of the one signature to keep, or null for all ink. */
  readonly mark: number | null;
  readonly saveRecipe: string | null;
  readonly report: string | null;
}

/**
 * Cuts out one file. The output appears under its name only when it is complete and has been read back.
 * @param opened  the picture, when its decoding has begun already
 * @throws CoreError naming the file
 */
export async function runCutout(job: CutoutJob, opened?: Promise<DecodedPicture>): Promise<void> {
  const name = basename(job.input);
  const times = stopwatch();
  times.begin('decode');
  loadKernels();
  const opening = opened ?? decodePicture(readInput(job.input), name);
  await warmUpDuring(opening);
  const { raster, hasAlphaChannel } = await opening;
  // One signature of a sheet takes a second run, and findings look at the original again.
  const consumes = job.mark === null && job.report === null;
  const run = (r: Recipe) =>
    namingNow(name, () =>
      runStages(raster, r.stages, {
        pictureKey: name,
        reduction: 1,
        onStep: times.begin,
        pictureOnly: job.report === null,
        consumes,
      }),
    );
  let recipe = chooseWay(job, raster, hasAlphaChannel);
  let result = run(recipe);
  if (job.mark !== null) {
    recipe = keepMark(recipe, result, job.mark, name);
    result = run(recipe);
  }
  times.begin('finish');
  const picture = finish(result, { trim: job.trim, isSolid: isSolid(recipe) }, name);
  times.begin('encode');
  if (job.format === 'png' && !job.size) {
    const bytes = await encodePng(picture);
    times.begin('read back');
    readBackPng(bytes, picture, job.output);
    times.end();
    writeWhole(job.output, bytes);
  } else {
    const { writePicture } = await import('./writePicture');
    await namingNow(name, () => writePicture(job, picture));
    times.end();
  }
  if (job.saveRecipe) writeWhole(job.saveRecipe, `${JSON.stringify(recipe, null, 2)}\n`);
  if (job.report) {
    const { width, height } = picture;
    const { findings, perStage } = result;
    const facts = { ...perStage.cutOut.facts };
    const report = { file: job.input, width, height, findings, facts, timesMs: times.all };
    writeWhole(job.report, `${JSON.stringify(report, null, 2)}\n`);
  }
}

const WARM_STEP = 4 << 20;
const MOST_WARM = 144 << 20;

// The decoder has threads of its own, and this one nothing else to do.
async function warmUpDuring(opening: Promise<unknown>): Promise<void> {
  let isOpen = false;
  const end = () => {
    isOpen = true;
  };
  opening.then(end, end);
  for (let at = 0; !isOpen && at < MOST_WARM; at += WARM_STEP) {
    warmMemory(at, at + WARM_STEP, MOST_WARM);
    await new Promise(setImmediate);
  }
}

function chooseWay(job: CutoutJob, raster: Raster, hasAlpha: boolean): Recipe {
  if (job.way === 'auto' && job.hasOwnRecipe) return job.recipe;
  const way = job.way === 'auto' ? cutOutWayOf(inspectPicture(raster, hasAlpha).way) : job.way;
  return { ...job.recipe, stages: { ...job.recipe.stages, cutOut: { ...job.recipe.stages.cutOut, way } } };
}

function keepMark(recipe: Recipe, result: MasterResult, number: number, name: string): Recipe {
  const marks = marksOf(cutOutFacts(result));
  const mark = marks.find((m) => m.number === number);
  if (!mark) {
    const known = marks.length === 0 ? 'it holds no signature; try --way paper' : `it holds ${marks.length}`;
    throw new CoreError('cutout/no-such-mark', `${name}: there is no mark ${number}; ${known}.`, {
      file: name,
      mark: number,
    });
  }
  return { ...recipe, stages: { ...recipe.stages, cutOut: { ...recipe.stages.cutOut, mark: mark.at } } };
}

// On the working picture's grid unless trimmed: a crop in the recipe keeps its place.
function finish(
  { master }: MasterResult,
  { trim, isSolid }: { trim: boolean; isSolid: boolean },
  name: string,
): Raster {
  const { raster, within } = isSolid ? solidArtwork(master) : master;
  const extents = trim ? findExtents(raster, undefined, within) : null;
  if (!extents && (trim || !isVisible(raster, undefined, within)))
    throw new CoreError(
      'cutout/nothing-left',
      `${name}: nothing is left after the cut-out. Try a lower --tolerance, or a lower --level for ink.`,
      { file: name },
    );
  return extents ? bleedColours(cropRaster(raster, extents)) : bleedColours(raster, within);
}

function stopwatch() {
  const all: Record<string, number> = {};
  let current: string | null = null;
  let since = 0;
  const end = () => {
    if (current) all[current] = Math.round(((all[current] ?? 0) + performance.now() - since) * 10) / 10;
    current = null;
  };
  return {
    all,
    end,
    begin: (name: string) => {
      end();
      current = name;
      since = performance.now();
    },
  };
}

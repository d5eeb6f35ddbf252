import type { Artwork } from '../core/artwork/artwork';
import type { Drawing } from '../core/artwork/drawing';
import { clustersOfDrawing } from '../core/artwork/drawingClusters';
import { isCoreError } from '../core/errors';
import { findMatteMarks } from '../core/ink/matteMarks';
import { findSheet } from '../core/inspect/findSheet';
import type { RectPx } from '../core/params';
import { type MasterResult, type RunOptions, cutOutFacts, runStages } from '../core/recipe/runRecipe';
import { takeWholeSheet } from '../core/recipe/takeMark';
import type { StageValues } from '../core/stages';
import { type MarkFact, marksOf } from '../core/stages/cutOutFacts';
import { toMarkFact } from '../core/stages/paperWay';
import { gapBetween } from '../core/vector/clusters';
import { boundsOfPath } from '../core/vector/path';
import { toBitmap } from './bitmaps';
import type { Candidates } from './protocol';

/** The marks of the whole sheet, whatever is cropped at the moment. */
export async function findCandidates(
  source: Artwork,
  { values, gap }: { values: StageValues; gap: number | null },
  run: RunOptions,
): Promise<Candidates> {
  const { raster, reduction, drawing } = source;
  if (drawing) {
    const { widthPx: width, heightPx: height } = drawing;
    return { sheet: null, width, height, marks: drawnMarks(drawing, gap), corners: null };
  }
  // A sheet is looked for where there is paper: a light plate in a logo is none.
  const corners = values.crop.corners || values.cutOut.way !== 'paper' ? null : findSheet(raster, reduction);
  const found = runWhole(source, takeWholeSheet(values), run);
  const sheet = found?.perStage.crop.artwork.raster ?? raster;
  return {
    sheet: sheet === raster ? null : await toBitmap(sheet),
    width: sheet.width * reduction,
    height: sheet.height * reduction,
    marks: found ? listMarks(found) : [],
    corners,
  };
}

/** Room to a neighbour that a region takes, share of the way to it. */
const ROOM_SHARE = 0.3;

/** The separate pictures of a drawn sheet. */
function drawnMarks(drawing: Drawing, gap: number | null): MarkFact[] {
  const { shapes } = drawing;
  const clusters = clustersOfDrawing(drawing, gap);
  if (clusters.length < 2) return [];
  const isBacked = clusters.reduce((n, c) => n + c.members.length, 0) < shapes.length;
  return clusters.map(({ box, members }, k) => {
    const gaps = clusters.filter((_, j) => j !== k).map((c) => gapBetween(box, c.box));
    const { x, y, width, height } = boundsOfPath(shapes[members[0]].path) ?? box;
    const region = wholePixels(box);
    return {
      ...region,
      number: k + 1,
      angleDeg: 0,
      region,
      at: { x: x + width / 2, y: y + height / 2 },
      drawn: { roomPx: Math.min(...gaps) * ROOM_SHARE, isBacked },
    };
  });
}

function wholePixels(b: RectPx): RectPx {
  const [x, y] = [Math.floor(b.x), Math.floor(b.y)];
  return { x, y, width: Math.ceil(b.x + b.width) - x, height: Math.ceil(b.y + b.height) - y };
}

// Where no ink is found there is simply nothing to offer.
function runWhole(source: Artwork, values: StageValues, run: RunOptions): MasterResult | null {
  try {
    return runStages(source, values, run);
  } catch (error) {
    if (!isCoreError(error)) throw error;
    return null;
  }
}

// On paper they were found on the way; a cut-out from a flat ground is searched for groups that stand apart. Logos
// stand upright.
function listMarks(found: MasterResult): readonly MarkFact[] {
  const facts = cutOutFacts(found);
  if (facts.way !== 'flat') return marksOf(facts);
  const { artwork } = found.perStage.cutOut;
  return findMatteMarks(artwork.raster).map((m) => ({
    ...toMarkFact(m, artwork),
    angleDeg: 0,
    region: toMarkFact({ ...m, region: m.box }, artwork).region,
  }));
}

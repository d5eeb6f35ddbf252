import {
  type Corners,
  composeProjective,
  fromMatrix,
  invertProjective,
  project,
  rectangleToCorners,
  sizeFromCorners,
  turning,
} from '../geometry/projective';
import { CoreError } from '../errors';
import { translation } from '../geometry/matrix';
import { type RectPx, cornersField, numberField, rectField } from '../params';
import { clampRect, cropRaster } from '../raster/cropRaster';
import { hasTransparency } from '../raster/raster';
import { warpRaster } from '../raster/warpRaster';
import { type StagePicture, defineStage } from './stage';

export const MOST_TURN_DEG = 45;
/** A region may hold this many times the picture's pixels: a turned one is larger than what it holds. */
const MOST_GROWTH = 2.5;

/**
 * A region of the working picture, straightened; every later stage sees only that. The region is measured on the sheet:
 * the working picture itself or, with four corners, the flat rectangle that they enclose. It is turned about its own centre.
 */
export const crop = defineStage({
  id: 'crop',
  version: 2,
  title: 'Crop',
  params: {
    rect: rectField({ label: 'Region', hint: 'What lies outside is left out of every later step.' }),
    turn: numberField({
      label: 'Turn',
      hint: 'How far what is in the region leans, clockwise; it is set upright by that much.',
      initial: 0,
      min: -MOST_TURN_DEG,
      max: MOST_TURN_DEG,
      step: 0.1,
      unit: '°',
    }),
    corners: cornersField({
      label: 'Corners of the sheet',
      hint: 'Put a sheet that was photographed from the side flat.',
    }),
  },
  run(input, { rect, turn, corners }) {
    const picture = turn === 0 && corners === null ? cropUpright(input, rect) : cropTurned(input, rect, turn, corners);
    return { picture, findings: [], facts: {} };
  },
});

function cropUpright(input: StagePicture, rect: RectPx | null): StagePicture {
  if (!rect) return input;
  const back = invertProjective(input.toWorking);
  const from = project(back, rect.x, rect.y);
  const to = project(back, rect.x + rect.width, rect.y + rect.height);
  const asked = { x: from.x, y: from.y, width: to.x - from.x, height: to.y - from.y };
  const inside = clampRect(asked, input.raster.width, input.raster.height);
  const raster = cropRaster(input.raster, asked);
  return {
    ...input,
    raster,
    toWorking: composeProjective(input.toWorking, fromMatrix(translation(inside.x, inside.y))),
  };
}

function cropTurned(input: StagePicture, rect: RectPx | null, turn: number, corners: Corners | null): StagePicture {
  const { raster, reduction } = input;
  const sheet = corners
    ? sizeFromCorners(corners)
    : { width: raster.width * reduction, height: raster.height * reduction };
  const region = rect ?? wholeTurned(sheet, turn);
  const width = Math.max(1, Math.round(region.width / reduction));
  const height = Math.max(1, Math.round(region.height / reduction));
  if (width * height > raster.width * raster.height * MOST_GROWTH + 1_000_000) {
    throw new CoreError(
      'crop/too-large',
      `The region would be ${Math.round(region.width)} × ${Math.round(region.height)} px, far larger than the picture. Bring its corners closer.`,
      { region },
    );
  }
  const centred = fromMatrix([reduction, 0, 0, reduction, -region.width / 2, -region.height / 2]);
  const placed = composeProjective(
    fromMatrix(translation(region.x + region.width / 2, region.y + region.height / 2)),
    composeProjective(turning(turn), centred),
  );
  const toWorking = corners
    ? composeProjective(rectangleToCorners(sheet.width, sheet.height, corners), placed)
    : placed;
  const toSource = composeProjective(invertProjective(input.toWorking), toWorking);
  return { ...input, raster: warpRaster(raster, toSource, width, height, !hasTransparency(raster)), toWorking };
}

/** The region that holds a whole sheet when it is turned. */
function wholeTurned({ width, height }: { width: number; height: number }, turn: number): RectPx {
  const [cos, sin] = [turning(turn)[0], Math.abs(turning(turn)[3])];
  const w = width * cos + height * sin;
  const h = width * sin + height * cos;
  return { x: (width - w) / 2, y: (height - h) / 2, width: w, height: h };
}

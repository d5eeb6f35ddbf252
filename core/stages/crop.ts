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
import { scaling, translation } from '../geometry/matrix';
import type { HalfPlane } from '../vector/clipPath';
import { type RectPx, cornersField, numberField, rectField } from '../params';
import { clampRect, cropRaster } from '../raster/cropRaster';
import { hasTransparency } from '../raster/raster';
import { warpRaster } from '../raster/warpRaster';
import { type Artwork, wholeOf, withDrawing } from '../artwork/artwork';
import { cropDrawing } from '../artwork/cropDrawing';
import type { Drawing } from '../artwork/drawing';
import { defineStage } from './stage';

export const MOST_TURN_DEG = 45;
/** A region may hold this many times the picture's pixels: a turned one is larger than what it holds. */
const MOST_GROWTH = 2.5;

/**
 * A region of the working picture, straightened; every later stage sees only that. The region is measured on the sheet:
 * the working picture itself or, with four corners, the flat rectangle that they enclose. It is turned about its own
 * centre.
 */
export const crop = defineStage({
  id: 'crop',
  version: 2,
  title: 'Crop',
  keeps: 'paths',
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
    const artwork = turn === 0 && corners === null ? cropUpright(input, rect) : cropTurned(input, rect, turn, corners);
    return { artwork, findings: [], facts: {} };
  },
});

function cropUpright(input: Artwork, rect: RectPx | null): Artwork {
  if (!rect) return input;
  if (input.drawing) return cropPathsUpright(input, input.drawing, rect);
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
    within: wholeOf(raster),
  };
}

// Paths are cut where the region is, not at the nearest pixel of a reduced picture.
function cropPathsUpright(input: Artwork, drawing: Drawing, rect: RectPx): Artwork {
  const back = invertProjective(input.toWorking);
  const from = project(back, rect.x, rect.y);
  const to = project(back, rect.x + rect.width, rect.y + rect.height);
  const { reduction } = input;
  const [x0, y0] = [Math.max(0, tidy(from.x * reduction)), Math.max(0, tidy(from.y * reduction))];
  const width = Math.min(drawing.widthPx, tidy(to.x * reduction)) - x0;
  const height = Math.min(drawing.heightPx, tidy(to.y * reduction)) - y0;
  if (width <= 0 || height <= 0) {
    throw new CoreError('crop/empty', 'The crop region holds no part of the drawing.', { rect });
  }
  const cropped = cropDrawing(drawing, fromMatrix(translation(-x0, -y0)), { width, height });
  const moved = fromMatrix(translation(x0 / reduction, y0 / reduction));
  return withDrawing(input, cropped, composeProjective(input.toWorking, moved));
}

// A way there and back through a reduction leaves a rounding behind, which must not make another drawing.
const tidy = (v: number) => Math.round(v * 1e6) / 1e6;

function cropTurned(input: Artwork, rect: RectPx | null, turn: number, corners: Corners | null): Artwork {
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
      `The region would be ${Math.round(region.width)} × ${Math.round(region.height)} px, ` +
        'far larger than the picture. Bring its corners closer.',
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
  if (input.drawing) {
    // The same mapping between full-size pixels, the other way.
    const [grow, shrink] = [fromMatrix(scaling(reduction)), fromMatrix(scaling(1 / reduction))];
    const toPage = composeProjective(grow, composeProjective(invertProjective(toSource), shrink));
    const size = { width: region.width, height: region.height };
    return withDrawing(input, cropDrawing(input.drawing, toPage, size, corners ? quadOf(corners) : []), toWorking);
  }
  const warped = warpRaster(raster, toSource, width, height, !hasTransparency(raster));
  return { ...input, raster: warped, toWorking, within: wholeOf(warped) };
}

/** The half planes whose common part is what four corners, clockwise, enclose. */
function quadOf(corners: Corners): HalfPlane[] {
  return corners.map((a, k) => {
    const b = corners[(k + 1) % 4];
    const [nx, ny] = [-(b.y - a.y), b.x - a.x];
    return { nx, ny, d: -(nx * a.x + ny * a.y) };
  });
}

/** The region that holds a whole sheet when it is turned. */
function wholeTurned({ width, height }: { width: number; height: number }, turn: number): RectPx {
  const [cos, sin] = [turning(turn)[0], Math.abs(turning(turn)[3])];
  const w = width * cos + height * sin;
  const h = width * sin + height * cos;
  return { x: (width - w) / 2, y: (height - h) / 2, width: w, height: h };
}

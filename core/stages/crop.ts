import { compose, invert, transform, translation } from '../geometry/matrix';
import { rectField } from '../params';
import { clampRect, cropRaster } from '../raster/cropRaster';
import { defineStage } from './stage';

/** A region of the working picture; every later stage sees only that. */
export const crop = defineStage({
  id: 'crop',
  version: 1,
  title: 'Crop',
  params: { rect: rectField({ label: 'Region', hint: 'What lies outside is left out of every later step.' }) },
  run(input, { rect }) {
    if (!rect) return { picture: input, findings: [], facts: {} };
    const back = invert(input.toWorking);
    const from = transform(back, rect.x, rect.y);
    const to = transform(back, rect.x + rect.width, rect.y + rect.height);
    const asked = { x: from.x, y: from.y, width: to.x - from.x, height: to.y - from.y };
    const inside = clampRect(asked, input.raster.width, input.raster.height);
    const raster = cropRaster(input.raster, asked);
    return { picture: { raster, toWorking: compose(input.toWorking, translation(inside.x, inside.y)) }, findings: [], facts: {} };
  },
});

import { withDrawing } from '../artwork/artwork';
import { placeDrawing } from '../artwork/drawing';
import { composeProjective, fromMatrix } from '../geometry/projective';
import { flagField } from '../params';
import { type Raster, createRaster } from '../raster/raster';
import { defineStage } from './stage';

/** Left becomes right. */
export const mirror = defineStage({
  id: 'mirror',
  version: 1,
  title: 'Mirror',
  keeps: 'paths',
  params: { isMirrored: flagField({ label: 'Mirrored', initial: false }) },
  run(input, { isMirrored }) {
    if (!isMirrored) return { artwork: input, findings: [], facts: {} };
    const { width, height } = input.raster;
    const toWorking = composeProjective(input.toWorking, fromMatrix([-1, 0, 0, 1, width, 0]));
    const { drawing } = input;
    if (drawing) {
      const turned = placeDrawing(drawing, [-1, 0, 0, 1, drawing.widthPx, 0], drawing.widthPx, drawing.heightPx);
      return { artwork: withDrawing(input, turned, toWorking), findings: [], facts: {} };
    }
    const within = { ...input.within, x: width - input.within.x - input.within.width };
    return {
      artwork: { ...input, raster: mirrored(input.raster, height), toWorking, within },
      findings: [],
      facts: {},
    };
  },
});

function mirrored({ width, data }: Raster, height: number): Raster {
  const out = createRaster(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = (y * width + x) * 4;
      out.data.set(data.subarray(from, from + 4), (y * width + width - 1 - x) * 4);
    }
  }
  return out;
}

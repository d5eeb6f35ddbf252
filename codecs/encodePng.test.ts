import sharp from 'sharp';
import { expect, it } from 'vitest';
import { createRaster } from '../core/raster/raster';
import { encodePng } from './encodePng';

it.each([30, 72, 96, 150, 254, 299, 300, 350, 600, 1200, 2400])(
  'a PNG at %i ppi tells that resolution',
  async (ppi) => {
    const bytes = await encodePng(createRaster(8, 8), ppi);
    // Another reader than the writer: pixels per metre, rounded, come back as the same whole number of pixels per inch.
    expect((await sharp(bytes).metadata()).density).toBe(ppi);
  },
);

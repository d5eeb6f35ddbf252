import type { Artwork } from '../core/artwork/artwork';
import { cropRaster } from '../core/raster/cropRaster';
import { findExtents } from '../core/raster/extents';
import { type Raster, matteOf } from '../core/raster/raster';

const toImageData = (raster: Raster): ImageData =>
  new ImageData(
    new Uint8ClampedArray(raster.data.buffer as ArrayBuffer, raster.data.byteOffset, raster.data.length),
    raster.width,
    raster.height,
  );

export const toBitmap = (raster: Raster): Promise<ImageBitmap> => createImageBitmap(toImageData(raster));

/** Large enough for a bead at twice the usual pixel density. */
const BEAD_PX = 132;

/**
 * The artwork after a stage as its bead shows it: what is visible, small, its proportions kept; null where nothing is.
 */
export async function toBead({ raster, within }: Artwork): Promise<ImageBitmap | null> {
  const visible = findExtents(raster, undefined, within);
  if (!visible) return null;
  const shown = cropRaster(raster, visible);
  const scale = Math.min(1, BEAD_PX / Math.max(shown.width, shown.height));
  if (scale === 1) return toBitmap(shown);
  const side = (px: number) => Math.max(1, Math.round(px * scale));
  return createImageBitmap(toImageData(shown), {
    resizeWidth: side(shown.width),
    resizeHeight: side(shown.height),
    resizeQuality: 'high',
  });
}

/** A picture's matte as an opaque grey one. */
export function greyFrom(raster: Raster): Raster {
  const { width, height, data } = matteOf(raster);
  const out = new Uint8Array(width * height * 4);
  for (let i = 0, s = 0; i < data.length; i++, s += 4) {
    out[s] = out[s + 1] = out[s + 2] = data[i];
    out[s + 3] = 255;
  }
  return { width, height, data: out };
}

/** The least grey of what is visible at all. */
const LEAST_RAISED = 96;
/** A picture larger than this is looked at from afar: single pixels are grown by a pixel for each such length. */
const SEEN_WHOLE_PX = 900;

/** A picture's matte, opaque, with everything that is not wholly clear raised so that the eye finds it. */
export function raisedFrom(raster: Raster): Raster {
  const { width, height, data } = matteOf(raster);
  const reach = Math.floor(Math.max(width, height) / SEEN_WHOLE_PX);
  const raised = data.map((a) => (a === 0 ? 0 : Math.round(LEAST_RAISED + ((255 - LEAST_RAISED) * a) / 255)));
  const grown = maxAlong(
    maxAlong(raised, { lines: height, length: width, line: width, step: 1 }, reach),
    {
      lines: width,
      length: height,
      line: 1,
      step: width,
    },
    reach,
  );
  const out = new Uint8Array(width * height * 4).fill(255);
  for (let i = 0, s = 0; i < grown.length; i++, s += 4) out[s] = out[s + 1] = out[s + 2] = grown[i];
  return { width, height, data: out };
}

interface Along {
  readonly lines: number;
  readonly length: number;
  /** From one line to the next, and from one place of a line to the next. */
  readonly line: number;
  readonly step: number;
}

/** The greatest value within a reach, along rows or columns. */
function maxAlong(values: Uint8Array, { lines, length, line, step }: Along, reach: number): Uint8Array {
  if (reach === 0) return values;
  const out = new Uint8Array(values.length);
  for (let l = 0; l < lines; l++) {
    for (let at = 0; at < length; at++) {
      const value = values[l * line + at * step];
      if (value === 0) continue;
      for (let k = Math.max(0, at - reach); k <= Math.min(length - 1, at + reach); k++) {
        const i = l * line + k * step;
        if (out[i] < value) out[i] = value;
      }
    }
  }
  return out;
}

import { CoreError } from '../errors';

/**
 * A picture at rest: 8-bit sRGB-encoded R, G, B and straight alpha, interleaved, row-major, y down.
 * `data.length === width * height * 4`.
 */
export interface Raster {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** A matte or any other one-byte plane, row-major. `data.length === width * height`. */
export interface Plane {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

export const createRaster = (width: number, height: number): Raster => ({
  width,
  height,
  data: new Uint8Array(width * height * 4),
});

/** @throws CoreError 'raster/size-mismatch' saying expected and got */
export function checkRaster(raster: Raster): Raster {
  const { width, height, data } = raster;
  const expected = width * height * 4;
  if (!Number.isInteger(width) || !Number.isInteger(height) || width < 1 || height < 1 || data.length !== expected) {
    throw new CoreError(
      'raster/size-mismatch',
      `Expected ${width} × ${height} × 4 = ${expected} bytes, got ${data.length}.`,
      { width, height, bytes: data.length },
    );
  }
  return raster;
}

/** The matte of a picture: its alpha as a plane of its own. */
export function matteOf(raster: Raster): Plane {
  const n = raster.width * raster.height;
  const data = new Uint8Array(n);
  for (let i = 0, s = 3; i < n; i++, s += 4) data[i] = raster.data[s];
  return { width: raster.width, height: raster.height, data };
}

/** Whether any pixel is less than fully opaque. */
export function hasTransparency(raster: Raster): boolean {
  const { data } = raster;
  for (let i = 3; i < data.length; i += 4) if (data[i] !== 255) return true;
  return false;
}

import type { Raster } from '../raster/raster';
import { type Ground, groundAt } from './measureGround';

/**
 * How far each pixel is from the ground's colour at its place: the largest difference of any channel, 0..255.
 * The largest channel, not the sum: a pale yellow on white differs in blue alone and must still count.
 */
export function groundDistance(raster: Raster, ground: Ground): Uint8Array {
  const { width, height, data } = raster;
  const out = new Uint8Array(width * height);
  if (ground.plane) {
    // Only ever asked for the whole picture, whose size the plane has.
    const { data: under } = ground.plane;
    for (let i = 0; i < out.length; i++) {
      out[i] = Math.max(Math.abs(data[i * 4] - under[i * 3]), Math.abs(data[i * 4 + 1] - under[i * 3 + 1]), Math.abs(data[i * 4 + 2] - under[i * 3 + 2]));
    }
    return out;
  }
  if (ground.surface) {
    // The surface is smooth, so it is evaluated on a coarse grid and interpolated along each row.
    const STEP = 16;
    const knots = Math.ceil(width / STEP) + 1;
    const row = new Float64Array(knots * 3);
    for (let y = 0; y < height; y++) {
      for (let k = 0; k < knots; k++) row.set(groundAt(ground, k * STEP, y, width, height), k * 3);
      for (let x = 0, i = y * width, s = i * 4; x < width; x++, i++, s += 4) {
        const k = ((x / STEP) | 0) * 3;
        const t = (x % STEP) / STEP;
        const dr = Math.abs(data[s] - row[k] - (row[k + 3] - row[k]) * t);
        const dg = Math.abs(data[s + 1] - row[k + 1] - (row[k + 4] - row[k + 1]) * t);
        const db = Math.abs(data[s + 2] - row[k + 2] - (row[k + 5] - row[k + 2]) * t);
        const d = dr > dg ? dr : dg;
        out[i] = (d > db ? d : db) + 0.5;
      }
    }
    return out;
  }
  const [r, g, b] = ground.colour;
  // Most pixels of a clean picture are the ground's colour exactly; the plane holds 0 already.
  const px = new Int32Array(data.buffer, data.byteOffset, out.length);
  const same = (255 << 24) | (b << 16) | (g << 8) | r;
  const total = out.length;
  for (let i = 0; i < total; i++) {
    while (i + 4 < total && px[i] === same && px[i + 1] === same && px[i + 2] === same && px[i + 3] === same) i += 4;
    const v = px[i];
    if (v === same) continue;
    let dr = (v & 255) - r;
    let dg = ((v >> 8) & 255) - g;
    let db = ((v >> 16) & 255) - b;
    if (dr < 0) dr = -dr;
    if (dg < 0) dg = -dg;
    if (db < 0) db = -db;
    const d = dr > dg ? dr : dg;
    out[i] = d > db ? d : db;
  }
  return out;
}

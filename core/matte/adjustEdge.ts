import type { Raster } from '../raster/raster';

/**
 * Moves the edge of a picture's matte, in place: inwards for a positive `chokePx`, outwards for a negative one,
 * to a tenth of a pixel. Whole pixels are grey-scale erosion or dilation with a cross; the fraction mixes two steps.
 * Pixels that become visible take the colour of a visible neighbour.
 */
export function chokeMatte(raster: Raster, chokePx: number): void {
  const sign = chokePx >= 0 ? 1 : -1;
  let rest = Math.abs(chokePx);
  while (rest > 1e-6) {
    step(raster, sign, Math.min(1, rest));
    rest -= 1;
  }
}

function step(raster: Raster, sign: 1 | -1, share: number): void {
  const { width, height, data } = raster;
  const before = new Uint8Array(width * height);
  for (let i = 0; i < before.length; i++) before[i] = data[i * 4 + 3];
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const own = before[i];
      let far = own;
      let from = i;
      const look = (n: number) => {
        if (sign > 0 ? before[n] < far : before[n] > far) {
          far = before[n];
          from = n;
        }
      };
      if (x > 0) look(i - 1);
      if (x < width - 1) look(i + 1);
      if (y > 0) look(i - width);
      if (y < height - 1) look(i + width);
      if (from === i) continue;
      if (own === 0) for (let c = 0; c < 3; c++) data[i * 4 + c] = data[from * 4 + c];
      data[i * 4 + 3] = Math.round(own + (far - own) * share);
    }
  }
}

/**
 * Softens the matte by a box of the given radius, in place, keeping colours. 0 leaves it as measured.
 * @param radiusPx  0..8; fractions weigh the outermost samples
 */
export function softenMatte(raster: Raster, radiusPx: number): void {
  if (radiusPx <= 0) return;
  const { width, height, data } = raster;
  let plane = new Float32Array(width * height);
  for (let i = 0; i < plane.length; i++) plane[i] = data[i * 4 + 3];
  plane = blurLines(plane, width, height, 1, width, radiusPx);
  plane = blurLines(plane, height, width, width, 1, radiusPx);
  for (let i = 0; i < plane.length; i++) {
    const alpha = Math.round(plane[i]);
    if (alpha > 0 && data[i * 4 + 3] === 0) takeNeighbourColour(data, i, width, height, Math.ceil(radiusPx));
    data[i * 4 + 3] = alpha;
  }
}

function blurLines(
  src: Float32Array,
  length: number,
  lines: number,
  step: number,
  lineStep: number,
  radius: number,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(src.length);
  const whole = Math.floor(radius);
  const part = radius - whole;
  const total = 1 + 2 * radius;
  for (let l = 0; l < lines; l++) {
    const base = l * lineStep;
    for (let k = 0; k < length; k++) {
      let sum = 0;
      for (let d = -whole; d <= whole; d++) if (k + d >= 0 && k + d < length) sum += src[base + (k + d) * step];
      if (part > 0) {
        if (k - whole - 1 >= 0) sum += part * src[base + (k - whole - 1) * step];
        if (k + whole + 1 < length) sum += part * src[base + (k + whole + 1) * step];
      }
      out[base + k * step] = sum / total;
    }
  }
  return out;
}

function takeNeighbourColour(data: Uint8Array, i: number, width: number, height: number, reach: number): void {
  const x = i % width;
  const y = (i / width) | 0;
  for (let r = 1; r <= reach; r++) {
    for (let dy = -r; dy <= r; dy++) {
      for (let dx = -r; dx <= r; dx++) {
        if (Math.max(Math.abs(dx), Math.abs(dy)) !== r) continue;
        const px = x + dx;
        const py = y + dy;
        if (px < 0 || py < 0 || px >= width || py >= height || data[(py * width + px) * 4 + 3] === 0) continue;
        const n = (py * width + px) * 4;
        data[i * 4] = data[n];
        data[i * 4 + 1] = data[n + 1];
        data[i * 4 + 2] = data[n + 2];
        return;
      }
    }
  }
}

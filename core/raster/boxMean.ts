/** The sum over a square of side 2·radius + 1 about each sample; what lies outside the plane counts as 0. */
export function boxSum(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  const rows = new Float32Array(plane.length);
  const line = new Float64Array(width + 2 * radius + 1); // [0 … 0, the row, 0 … 0], so that no end needs a question
  const size = 2 * radius + 1;
  for (let y = 0; y < height; y++) {
    const base = y * width;
    for (let x = 0; x < width; x++) line[x + radius + 1] = plane[base + x];
    let sum = 0;
    for (let x = 0; x < size; x++) sum += line[x];
    for (let x = 0; x < width; x++) {
      sum += line[x + size] - line[x];
      rows[base + x] = sum;
    }
  }
  // Down the columns a whole row at a time: neighbours in memory stay neighbours.
  const out = new Float32Array(plane.length);
  const sums = new Float64Array(width);
  for (let y = 0; y < Math.min(radius, height); y++) addRow(sums, rows, y * width, 1);
  for (let y = 0; y < height; y++) {
    if (y + radius < height) addRow(sums, rows, (y + radius) * width, 1);
    if (y - radius - 1 >= 0) addRow(sums, rows, (y - radius - 1) * width, -1);
    out.set(sums, y * width);
  }
  return out;
}

function addRow(sums: Float64Array, rows: Float32Array, from: number, sign: number): void {
  for (let x = 0; x < sums.length; x++) sums[x] += sign * rows[from + x];
}

/** The mean over a square of side 2·radius + 1, cut off at the plane's edge. */
export function boxMean(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  const out = boxSum(plane, width, height, radius);
  for (let y = 0, i = 0; y < height; y++) {
    const tall = Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1;
    for (let x = 0; x < width; x++, i++)
      out[i] /= tall * (Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1);
  }
  return out;
}

/** The mean of 3 × 3 about each sample; the plane's outermost samples are given as they are. */
export function meanOfNine(plane: Float32Array, width: number, height: number): Float32Array {
  const out = plane.slice();
  const column = new Float32Array(width);
  for (let y = 1; y < height - 1; y++) {
    const base = y * width;
    for (let x = 0, i = base; x < width; x++, i++) column[x] = plane[i - width] + plane[i] + plane[i + width];
    for (let x = 1; x < width - 1; x++) out[base + x] = (column[x - 1] + column[x] + column[x + 1]) / 9;
  }
  return out;
}

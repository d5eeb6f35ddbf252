/**
 * Area coverage by the plainest means: many lines across each row, on each the exact lengths inside. Shares no code with core.
 * @param rings  closed polygons, px
 * @returns one share a pixel, row-major
 */
export function exactCoverage(
  rings: readonly (readonly (readonly [number, number])[])[],
  width: number,
  height: number,
  rule: 'nonzero' | 'evenodd' = 'nonzero',
  linesPerRow = 256,
): Float64Array {
  const out = new Float64Array(width * height);
  const sides = rings.flatMap((ring) => ring.map((p, k) => [p, ring[(k + 1) % ring.length]] as const));
  for (let line = 0; line < height * linesPerRow; line++) {
    const y = (line + 0.5) / linesPerRow;
    const hits: [number, number][] = [];
    for (const [[x0, y0], [x1, y1]] of sides) {
      if (y0 <= y === y1 <= y) continue;
      hits.push([x0 + ((y - y0) * (x1 - x0)) / (y1 - y0), y1 > y0 ? 1 : -1]);
    }
    hits.sort((a, b) => a[0] - b[0]);
    let winding = 0;
    for (let k = 0; k + 1 < hits.length; k++) {
      winding += hits[k][1];
      if (rule === 'evenodd' ? winding % 2 === 0 : winding === 0) continue;
      const from = Math.max(0, hits[k][0]);
      const to = Math.min(width, hits[k + 1][0]);
      for (let x = Math.floor(from); x < to; x++)
        out[Math.floor(y) * width + x] += Math.max(0, Math.min(to, x + 1) - Math.max(from, x)) / linesPerRow;
    }
  }
  return out;
}

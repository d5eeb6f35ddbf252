type Point = readonly [number, number];

/**
 * Area coverage by the plainest means: many lines across each row, on each the exact lengths inside. Shares no code
 * with core.
 * @param rings  closed polygons, px
 * @param linesPerRow  a level edge is off by half a line at most
 * @returns one share a pixel, row-major
 */
export function exactCoverage(
  rings: readonly (readonly Point[])[],
  width: number,
  height: number,
  rule: 'nonzero' | 'evenodd' = 'nonzero',
  linesPerRow = 256,
): Float64Array {
  const out = new Float64Array(width * height);
  const rows: (readonly [Point, Point])[][] = Array.from({ length: height }, () => []);
  for (const ring of rings) {
    ring.forEach((p, k) => {
      const q = ring[(k + 1) % ring.length];
      const from = Math.max(0, Math.floor(Math.min(p[1], q[1])));
      const to = Math.min(height - 1, Math.floor(Math.max(p[1], q[1])));
      for (let y = from; y <= to; y++) rows[y].push([p, q]);
    });
  }
  for (let line = 0; line < height * linesPerRow; line++) {
    const y = (line + 0.5) / linesPerRow;
    const row = Math.floor(y);
    const hits: [number, number][] = [];
    for (const [[x0, y0], [x1, y1]] of rows[row]) {
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
        out[row * width + x] += Math.max(0, Math.min(to, x + 1) - Math.max(from, x)) / linesPerRow;
    }
  }
  return out;
}

/** The outline of an SVG file of one path, as polygons on a picture of so many pixels that its view fills. */
export function ringsOfSvg(svg: string, width: number, height: number, chordsPerCurve: number): Point[][] {
  const [, vw, vh] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg) as RegExpExecArray;
  const at = (x: number, y: number): Point => [(x * width) / Number(vw), (y * height) / Number(vh)];
  const rings: Point[][] = [];
  let [px, py] = [0, 0];
  const d = (/ d="([^"]*)"/.exec(svg) as RegExpExecArray)[1];
  for (const [, verb, list] of d.matchAll(/([MLCZ])([^MLCZ]*)/g)) {
    const n = list.trim() ? list.trim().split(/\s+/).map(Number) : [];
    if (verb === 'M') rings.push([at(n[0], n[1])]);
    else if (verb === 'L') rings[rings.length - 1].push(at(n[0], n[1]));
    else if (verb === 'C')
      for (let k = 1; k <= chordsPerCurve; k++) {
        const t = k / chordsPerCurve;
        const mix = (a: number, b: number, c: number, e: number) =>
          a * (1 - t) ** 3 + 3 * b * t * (1 - t) ** 2 + 3 * c * t * t * (1 - t) + e * t ** 3;
        rings[rings.length - 1].push(at(mix(px, n[0], n[2], n[4]), mix(py, n[1], n[3], n[5])));
      }
    if (verb !== 'Z') [px, py] = n.slice(-2);
  }
  return rings;
}

// npm run bench -- --rims [SEEDS]: how even rims are, of paths and of pixels, how many nodes they have and how long
// they take. Their truth is the distance of every place of the rim's border from the mark's own outline.
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { extentsOf } from '../core/artwork/extentsOf';
import { PX_PER_MM } from '../core/decoration';
import { scaling } from '../core/geometry/matrix';
import { invertProjective, project } from '../core/geometry/projective';
import { matteOf } from '../core/raster/raster';
import { surrounds } from '../core/surrounds';
import { createPointTree } from '../core/trace/pointTree';
import { plainTrace, traceCoverage } from '../core/trace/traceCoverage';
import { flattenPath } from '../core/vector/flattenPath';
import { type Path, transformPath, ringsOf } from '../core/vector/path';
import { nodesOf } from './measureTrace';
import { type KnownShape, knownShapes, knownSignatures, knownTexts } from './traceShapes';

const FINE_PX = 0.1;
const seeds = Number(process.argv[2] ?? 2);

/** Places along all rings of a path. */
function placesOf(path: Path, step: number): [Float64Array, Float64Array] {
  const [xs, ys]: [number[], number[]] = [[], []];
  for (const ring of ringsOf(path)) {
    const lines = flattenPath(ring, scaling(1));
    for (let k = 0; k < lines.length; k += 4) {
      const [x0, y0, x1, y1] = lines.slice(k, k + 4);
      const count = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / step));
      for (let i = 0; i < count; i++) {
        xs.push(x0 + ((x1 - x0) * i) / count);
        ys.push(y0 + ((y1 - y0) * i) / count);
      }
    }
  }
  return [Float64Array.from(xs), Float64Array.from(ys)];
}

function widthErrors(border: Path, own: Path, width: number) {
  const tree = createPointTree(...placesOf(own, FINE_PX));
  const [xs, ys] = placesOf(border, 1);
  let [sum, worst] = [0, 0];
  for (let k = 0; k < xs.length; k++) {
    const off = Math.abs((tree.nearest(xs[k], ys[k])?.distance ?? Infinity) - width);
    sum += off;
    worst = Math.max(worst, off);
  }
  return { mean: sum / Math.max(1, xs.length), worst };
}

function rimOf(artwork: Artwork, width: number) {
  const ctx = { reduction: 1, palette: [], density: null, pxLength: 1, mmLength: PX_PER_MM };
  const params = { width, unit: 'px', colour: '#ffffff', join: 'round', holes: 'rimmed' };
  const began = performance.now();
  const out = surrounds
    .get('rim')
    .apply(artwork, params as never, { ...ctx, markHeightPx: extentsOf(artwork)?.height ?? 1 });
  return { out, ms: performance.now() - began };
}

for (const [family, shapes] of [
  ['shapes', knownShapes],
  ['text', knownTexts],
  ['script', knownSignatures],
] as [string, (seed: number) => KnownShape[]][]) {
  for (const kind of ['paths', 'pixels']) {
    let [mean, worst, nodes, own, ms, count] = [0, 0, 0, 0, 0, 0];
    for (let seed = 1; seed <= seeds; seed++) {
      for (const { path, width, height } of shapes(seed)) {
        const shape = {
          id: 'a',
          path,
          rule: 'nonzero' as const,
          paint: { kind: 'colour' as const, hex: '#000000' },
          opacity: 1,
        };
        const drawn = artworkOfDrawing({ widthPx: width, heightPx: height, shapes: [shape] });
        const by = 4 + 3 * (seed % 4);
        const rim = rimOf(kind === 'paths' ? drawn : artworkOfRaster(drawn.raster), by);
        const at = project(invertProjective(rim.out.toWorking), 0, 0);
        const placed = transformPath(path, [1, 0, 0, 1, at.x, at.y]);
        // Of pixels the border of what is visible, found again by its coverage.
        const border =
          rim.out.drawing?.shapes[0].path ??
          traceCoverage(matteOf(rim.out.raster), { ...plainTrace, tolerancePx: 0.1 }).path;
        const errors = widthErrors(border, placed, by);
        mean += errors.mean;
        worst = Math.max(worst, errors.worst);
        nodes += nodesOf(border);
        own += nodesOf(path);
        ms += rim.ms;
        count++;
      }
    }
    console.log(
      `${family}, ${kind}: width off ${(mean / count).toFixed(3)} px in the mean, ${worst.toFixed(2)} at most, ` +
        `${Math.round((100 * nodes) / own)} nodes per 100, ${Math.round(ms / count)} ms each`,
    );
  }
}

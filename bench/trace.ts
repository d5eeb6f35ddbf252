// How near traced outlines are to the true ones: npm run bench -- --trace [SEEDS].
import { renderDrawing } from '../core/artwork/renderDrawing';
import { scaling } from '../core/geometry/matrix';
import { type Plane, matteOf } from '../core/raster/raster';
import { plainTrace, traceCoverage } from '../core/trace/traceCoverage';
import { printPath } from '../core/vector/path';
import { renderSvgFile } from '../codecs/renderSvg';
import { type TraceScore, measureTrace } from './measureTrace';
import { type KnownShape, knownShapes, knownSignatures, knownTexts } from './traceShapes';

type Draw = (shape: KnownShape) => Plane;

/** Exact areas, as the program itself draws. */
const exact: Draw = ({ path, width, height }) =>
  matteOf(
    renderDrawing(
      {
        widthPx: width,
        heightPx: height,
        shapes: [{ id: '', path, rule: 'nonzero', paint: { kind: 'colour', hex: '#000000' }, opacity: 1 }],
      },
      { width, height, matrix: scaling(1) },
    ),
  );
/** As another program draws it, by samples. */
const sampled: Draw = ({ path, width, height }) =>
  matteOf(
    renderSvgFile(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><path ` +
        `d="${printPath(path, 4)}"/></svg>`,
      width,
      height,
    ),
  );

interface Row extends TraceScore {
  readonly family: string;
  readonly name: string;
  readonly msPerMp: number;
}

const seeds = Number(process.argv[2] ?? 3);
const isVerbose = process.argv.includes('--each');
for (const [title, draw] of [
  ['exact coverage', exact],
  ['drawn by samples', sampled],
] as const) {
  const rows: Row[] = [];
  for (let seed = 1; seed <= seeds; seed++) {
    for (const shape of [...knownShapes(seed), ...knownTexts(seed), ...knownSignatures(seed)]) {
      const plane = draw(shape);
      const began = performance.now();
      const { path } = traceCoverage(plane, plainTrace);
      const msPerMp = ((performance.now() - began) * 1e6) / (shape.width * shape.height);
      const score = measureTrace(
        { path, rule: 'nonzero' },
        { path: shape.path, rule: 'nonzero' },
        shape.width,
        shape.height,
      );
      rows.push({ ...score, family: shape.family, name: shape.name, msPerMp });
    }
  }
  console.log(`\n${title}\n${''.padEnd(24)}area %  mean   p95  nodes corners ms/MP`);
  const print = (name: string, list: readonly Row[]) => {
    const m = (pick: (r: Row) => number) => list.reduce((a, r) => a + pick(r), 0) / list.length;
    console.log(
      name.padEnd(22) +
        m((r) => r.areaDifference * 100)
          .toFixed(3)
          .padStart(8) +
        m((r) => r.meanPx)
          .toFixed(3)
          .padStart(7) +
        m((r) => r.p95Px)
          .toFixed(3)
          .padStart(6) +
        m((r) => r.nodeRatio)
          .toFixed(2)
          .padStart(6) +
        m((r) => r.cornersKept)
          .toFixed(3)
          .padStart(7) +
        m((r) => r.msPerMp)
          .toFixed(0)
          .padStart(6),
    );
  };
  for (const family of ['shape', 'text', 'script']) {
    const list = rows.filter((r) => r.family === family);
    if (isVerbose) for (const r of list) print(`  ${r.name}`, [r]);
    print(family, list);
  }
}

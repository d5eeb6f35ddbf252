// How solid solid ink is, and how well tones follow the pen: npm run bench -- --solid-ink [SHEETS] [FIRST SEED].
import { artworkOfRaster } from '../core/artwork/artwork';
import { fills } from '../core/fills';
import { cutOutInk, plainInk } from '../core/ink/cutOutInk';
import { initialValues } from '../core/params';
import { makePressureSheet } from './pressureSheets';

/** A pixel is covered when the pen covered so much of it. */
const COVERED = 0.98;
/** An alpha from here on is solid to the eye. */
const SOLID = 250;

const count = Number(process.argv[2] ?? 30);
const first = Number(process.argv[3] ?? 1);
const totals = { covered: 0, solid: 0 };
const correlations: number[] = [];
for (let seed = first; seed < first + count; seed++) {
  const { picture, coverage, density, how } = await makePressureSheet(seed);
  const cut = cutOutInk(picture, plainInk);
  const artwork = { ...artworkOfRaster(cut.picture), ink: cut.ink };
  const context = { reduction: 1, palette: [], pxLength: 1, mmLength: 12, markHeightPx: picture.height };
  const drawIn = (id: string, params: object) => {
    const fill = fills.get(id);
    return fill.apply(artwork, { ...initialValues(fill.params), ...params } as never, context).raster.data;
  };
  const solid = drawIn('oneColour', { colour: '#000000' });
  const tones = drawIn('twoTones', { dark: '#333333', light: '#a8a8a8' });
  let [covered, isSolid] = [0, 0];
  const pairs: [number, number][] = [];
  for (let i = 0; i < coverage.length; i++) {
    if (coverage[i] < COVERED) continue;
    covered++;
    if (solid[i * 4 + 3] >= SOLID) isSolid++;
    if (tones[i * 4 + 3] > 0) pairs.push([-tones[i * 4], density[i]]);
  }
  totals.covered += covered;
  totals.solid += isSolid;
  const r = correlation(pairs);
  correlations.push(r);
  console.log(
    `${String(seed).padStart(4)}  ${((100 * isSolid) / covered).toFixed(2)} %  tones ${r.toFixed(3)}  ${how}`,
  );
}
correlations.sort((a, b) => a - b);
console.log(
  `\nof pixels that the pen covered ${((100 * totals.solid) / totals.covered).toFixed(2)} % are solid; ` +
    `correlation of tone with density: least ${correlations[0].toFixed(3)}, middle ` +
    correlations[correlations.length >> 1].toFixed(3),
);

/** Pearson's, of pairs. */
function correlation(pairs: readonly [number, number][]): number {
  const mean = (of: (p: [number, number]) => number) => pairs.reduce((sum, p) => sum + of(p), 0) / pairs.length;
  const [mx, my] = [mean((p) => p[0]), mean((p) => p[1])];
  const sum = (of: (x: number, y: number) => number) => pairs.reduce((s, [x, y]) => s + of(x - mx, y - my), 0);
  return sum((x, y) => x * y) / Math.sqrt(sum((x) => x * x) * sum((_, y) => y * y));
}

import { basename } from 'node:path';
import { readBackSvg } from '../codecs/readBackSvg';
import { CoreError } from '../core/errors';
import { printSvg } from '../core/formats/svg';
import type { Artwork } from '../core/artwork/artwork';
import { type Drawing, placeDrawing } from '../core/artwork/drawing';
import { isVisible } from '../core/raster/extents';
import { runStages } from '../core/recipe/runRecipe';
import { MOST_COLOURS } from '../core/trace/findPalette';
import { plainTrace } from '../core/trace/traceCoverage';
import { traceMaster } from '../core/trace/traceMaster';
import { traceNumbers } from '../core/trace/traceFacts';
import { isAffine, projectPath } from '../core/vector/projectPath';
import { type Command, namingNow, readArguments, readInput, readNumber, readWhole, writeWhole } from './command';
import { loadRecipe } from './cutoutRecipe';
import { openSource, proposedFor } from './masterOf';

const help = `tassel trace FILE --out OUT.svg [options]

Draws the outlines of a mark as lines and curves, in one colour or a few flat ones.
A picture with a ground is cut out first. The SVG's view is the picture's own pixel
grid. The file is read back and checked.

  --colours N|auto   so many colours at most, 1..${MOST_COLOURS}; auto finds their number
  --tolerance PX     how far outlines may be from what is seen, 0.05..5; ${plainTrace.tolerancePx} at first
  --corner DEG       a turn of at least so much is a corner, 5..120; ${plainTrace.cornerDeg} at first
  --smallest AREA    pieces of less area are left out, in px
  --recipe R.json    the recipe to make the master by
  --json             prints nodes, deviations, colours, pieces and stroke widths`;

export const trace: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      out: { type: 'string' },
      colours: { type: 'string' },
      tolerance: { type: 'string' },
      corner: { type: 'string' },
      smallest: { type: 'string' },
      recipe: { type: 'string' },
      json: { type: 'boolean' },
    });
    if (positionals.length !== 1) throw new CoreError('cli/usage', `trace takes one file, got ${positionals.length}.`);
    if (!values.out) throw new CoreError('cli/usage', 'trace needs --out.');
    if (!/\.svg$/i.test(values.out)) throw new CoreError('cli/usage', '--out takes a name that ends in .svg.');
    const { colours, tolerance, corner, smallest } = values;
    const options = {
      ...plainTrace,
      colours: colours === undefined || colours === 'auto' ? null : readWhole(colours, 'colours', 1, MOST_COLOURS),
      ...(tolerance !== undefined && { tolerancePx: readNumber(tolerance, 'tolerance', 0.05, 5) }),
      ...(corner !== undefined && { cornerDeg: readNumber(corner, 'corner', 5, 120) }),
      ...(smallest !== undefined && { smallestPx: readNumber(smallest, 'smallest', 0, 100_000) }),
    };
    const name = basename(positionals[0]);
    const source = await openSource(readInput(positionals[0]), name);
    const recipe = values.recipe ? loadRecipe(values.recipe) : proposedFor(source);
    const { master } = namingNow(name, () => runStages(source, recipe.stages, { pictureKey: name, pictureOnly: true }));
    if (!isVisible(master.raster, undefined, master.within))
      throw new CoreError('cutout/nothing-left', `${name}: nothing is left.`);
    const traced = traceMaster(master.raster, options);
    if (traced.layers.length === 0)
      throw new CoreError('trace/nothing', `${name}: nothing is large enough to be traced. Try --smallest 0.`);
    const drawing = onGrid(traced.drawing, master, source.raster);
    const page = { widthPx: drawing.widthPx, heightPx: drawing.heightPx, ppi: null };
    const bytes = new TextEncoder().encode(printSvg(drawing, page));
    readBackSvg(bytes, values.out);
    writeWhole(values.out, bytes);
    if (!values.json) return 0;
    const numbers = traceNumbers(master.raster, traced);
    const report = {
      nodes: numbers.nodes,
      meanDeviationPx: round(numbers.meanDeviationPx),
      largestDeviationPx: round(numbers.largestDeviationPx),
      colours: traced.layers.map((layer) => layer.hex),
      pieces: numbers.pieces,
      thinnestPx: numbers.strokes && round(numbers.strokes.thinnestPx),
      medianStrokePx: numbers.strokes && round(numbers.strokes.medianPx),
    };
    console.log(JSON.stringify(report, null, 2));
    return 0;
  },
};

/** A drawing of the master where the master lies in its picture, cropped or turned. */
function onGrid(drawing: Drawing, master: Artwork, { width, height }: { width: number; height: number }): Drawing {
  const onto = master.toWorking;
  if (isAffine(onto)) {
    const [a, c, e, b, d, f] = [0, 1, 2, 3, 4, 5].map((k) => onto[k] / onto[8]);
    return placeDrawing(drawing, [a, b, c, d, e, f], width, height);
  }
  return {
    widthPx: width,
    heightPx: height,
    shapes: drawing.shapes.map((shape) => ({ ...shape, path: projectPath(shape.path, onto) })),
  };
}

const round = (v: number) => Math.round(v * 1000) / 1000;

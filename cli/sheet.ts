import { basename, extname } from 'node:path';
import { decodePicture } from '../codecs/decodePicture';
import { writeSheet } from '../codecs/writeSheet';
import { readColour } from '../core/colour/readColour';
import { CoreError } from '../core/errors';
import { formats } from '../core/formats';
import { readLength } from '../core/placements/lengths';
import { readAt } from '../core/placements/readPlacement';
import { partOf } from '../core/recipe/recipe';
import { effectivePpi, usualSheet } from '../core/sheets/layOutSheet';
import { LEAST_OVERLAP_MM, readMat, turnedFor } from '../core/sheets/mat';
import { PAPERS, isWide, readPaper, turnedPaper } from '../core/sheets/paper';
import { type Command, naming, readArguments, readInput, readNumber, writeWhole } from './command';
import { drawVariant, openMaster } from './masterOf';
import { variantsOf } from './marksToLay';

const FORMAT_OF: Record<string, string> = { '.pdf': 'pdf', '.tif': 'tiff', '.tiff': 'tiff', '.png': 'png' };
const USUAL_PPI = 300;
/** A photo's name plate: smaller, in a corner. */
const plate = { at: 'lower-right', inset: '5%', size: '22%' } as const;
/** Fewer pixels to the inch than this look soft on paper. */
const LEAST_PPI = 200;

const help = `tassel sheet MASTER --paper PAPER --out FILE.pdf|tiff|png [options]

Puts a mark on a print sheet of the very size: as paths in a PDF, or as a flat picture
that tells its resolution.

  --paper P        ${Object.keys(PAPERS).join(', ')}, or sides across and
                   down such as 10x8in, 210x297mm
  --ppi N          pixels per inch, ${USUAL_PPI} at first
  --mat OUTER:OPENING
                   such as 11x14in:9.5x7.5in; the mark keeps inside the opening
  --landscape, --portrait
                   turns the sheet
  --photo PHOTO    fills the sheet, the mark as its name plate
  --variant V      black, reversed, colour (at first) or FILE.json
  --at, --inset, --size, --opacity
                   in the opening, as place takes them; in the middle, ${usualSheet.size.value} % wide
                   at first; lengths in mm as well
  --ground COLOUR  of the paper in pictures, white at first
  --json           prints what was made, px and mm`;

export const sheet: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      paper: { type: 'string' },
      ppi: { type: 'string' },
      mat: { type: 'string' },
      out: { type: 'string' },
      landscape: { type: 'boolean' },
      portrait: { type: 'boolean' },
      photo: { type: 'string' },
      variant: { type: 'string' },
      at: { type: 'string' },
      inset: { type: 'string' },
      size: { type: 'string' },
      opacity: { type: 'string' },
      ground: { type: 'string' },
      json: { type: 'boolean' },
    });
    if (positionals.length !== 1) throw new CoreError('cli/usage', 'sheet takes one mark.');
    if (!values.paper || !values.out) throw new CoreError('cli/usage', 'sheet needs --paper and --out.');
    const out = values.out;
    const format = FORMAT_OF[extname(out).toLowerCase()];
    if (!format) throw new CoreError('cli/usage', `--out ends in .pdf, .tiff or .png, got "${out}".`);
    const ground = readColour(values.ground ?? '#ffffff');
    if (!ground) throw new CoreError('cli/usage', `--ground takes a colour, got "${values.ground}".`);
    const given = readPaper(values.paper);
    const isTurned = (values.landscape && !isWide(given)) || (values.portrait && isWide(given));
    const usual = values.photo ? plate : null;
    const length = (text: string | undefined, start: string | undefined, where: 'inset' | 'size', least: number) =>
      (text ?? start) ? readLength(text ?? start, `--${where}`, least) : usualSheet[where];
    const mat = values.mat === undefined ? null : readMat(values.mat);
    const paper = isTurned ? turnedPaper(given) : given;
    const order = {
      paper: mat && !values.landscape && !values.portrait ? turnedFor(paper, mat) : paper,
      ppi: values.ppi === undefined ? USUAL_PPI : readNumber(values.ppi, 'ppi', 36, 2400),
      mat,
      at: values.at ? readAt(values.at, '--at') : (usual?.at ?? usualSheet.at),
      inset: length(values.inset, usual?.inset, 'inset', 0),
      size: length(values.size, usual?.size, 'size', 0.01),
    };
    const [variant] = variantsOf(values.variant ?? 'colour');
    const name = basename(positionals[0]);
    const made = await naming(name, async () => {
      const mark = drawVariant(await openMaster(positionals[0]), variant, variant.name);
      const photo = values.photo ? (await decodePicture(readInput(values.photo), basename(values.photo))).raster : null;
      const opacity = values.opacity === undefined ? 1 : readNumber(values.opacity, 'opacity', 0, 1);
      return writeSheet({ mark, photo, ground, opacity }, order, partOf(formats, format), out);
    });
    writeWhole(out, made.bytes);
    const { layout, enlargement } = made;
    const ppi = effectivePpi(layout, enlargement);
    if (enlargement > 1 && ppi < LEAST_PPI)
      console.error(`tassel: ${name}: enlarged to ${ppi} pixels per inch on paper. Use a smaller size, or a drawing.`);
    const overlap = layout.framed?.overlap ?? null;
    if (overlap !== null && overlap < LEAST_OVERLAP_MM)
      console.error(`tassel: ${out}: the mat holds the sheet by ${overlap.toFixed(1)} mm alone.`);
    if (values.json)
      console.log(
        JSON.stringify(
          {
            page: { width: layout.width, height: layout.height, ...paperMm(order.paper) },
            ppi: order.ppi,
            effectivePpi: ppi,
            opening: layout.framed ? layout.seen : null,
            overlapMm: overlap,
            box: layout.mark,
          },
          null,
          2,
        ),
      );
    return 0;
  },
};

const paperMm = ({ width, height }: { width: number; height: number }) => ({ widthMm: width, heightMm: height });

import { basename } from 'node:path';
import { formatHost } from '../codecs/formatHost';
import { type SignLine, drawPage, findSignLine, linesOfPage } from '../codecs/documents/openDocument';
import { type Stamp, signPdf } from '../codecs/documents/signPdf';
import { typedStamp } from '../codecs/documents/typedStamp';
import { encodePng } from '../codecs/encodePng';
import { readColour } from '../core/colour/readColour';
import { lineFor } from '../core/documents/chooseLine';
import { INKS, signatureBox } from '../core/documents/signatureBox';
import { CoreError } from '../core/errors';
import { fills } from '../core/fills';
import { formats } from '../core/formats';
import { extentsOf } from '../core/artwork/extentsOf';
import { makeFile } from '../core/recipe/makeFile';
import { type Variant, partOf, variantOf } from '../core/recipe/recipe';
import { sizes } from '../core/sizes';
import { type Command, naming, readArguments, readInput, readNumber, readWhole, writeWhole } from './command';
import { drawVariant, openMaster, traced } from './masterOf';

/** As wide as a form is printed for. */
const MOST_MM = 200;
/** Between a signature and the date after it. */
const AFTER_PT = 14;
/** A page as a picture has 300 pixels to the inch. */
const PICTURE_PX_PER_PT = 300 / 72;

const help = `tassel sign IN.pdf --mark MARK --out OUT.pdf|PAGE.png [options]

Puts a signature on a line of a PDF document, as paths, and leaves everything else as it
was. Locked documents and those signed by a certificate are refused.

  --page N           the page; any of them without it
  --line auto|X,Y    auto, at first, finds the line to sign on; X,Y is the middle of the
                     line, points from the upper left corner of the page
  --width-mm MM      width of the signature; as the line and the room above it allow
  --ink black|blue|own|#hex
                     black at first; own leaves the mark's colours
  --date TEXT, --name TEXT
                     typed on the page's line for it; may be given without such a
                     line for the date, which then stands after the signature
  --json             prints { page, line: { x, y, width }, box }, points from the upper
                     left corner, x the line's left end`;

export const sign: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      mark: { type: 'string' },
      out: { type: 'string' },
      page: { type: 'string' },
      line: { type: 'string' },
      'width-mm': { type: 'string' },
      ink: { type: 'string' },
      date: { type: 'string' },
      name: { type: 'string' },
      json: { type: 'boolean' },
    });
    if (positionals.length !== 1) throw new CoreError('cli/usage', 'sign takes one PDF file.');
    if (!values.mark || !values.out) throw new CoreError('cli/usage', 'sign needs --mark and --out.');
    if (values.out === positionals[0])
      throw new CoreError('cli/usage', `${positionals[0]} would be written over. Choose another --out.`);
    const [name, bytes] = [basename(positionals[0]), readInput(positionals[0])];
    const page = values.page === undefined ? null : readWhole(values.page, 'page', 1, 100_000);
    const widthMm = values['width-mm'] === undefined ? null : readNumber(values['width-mm'], 'width-mm', 1, MOST_MM);
    const line = await lineOf(values.line ?? 'auto', { bytes, name, page });
    const mark = await naming(basename(values.mark), () => drawMark(values.mark as string, values.ink ?? 'black'));
    const box = signatureBox(line, mark.extents, widthMm);
    const stamps: Stamp[] = [{ pdf: mark.pdf, page: line.page, box }];
    for (const what of ['date', 'name'] as const) {
      const text = values[what];
      if (text === undefined) continue;
      const own = lineFor(await linesOfPage(bytes, name, line.page), what);
      if (!own && what === 'name')
        throw new CoreError('document/no-line', `${name}: page ${line.page} has no line for a name.`, { file: name });
      const on = own ?? { x: Math.max(box.x + box.width, line.x + line.width) + AFTER_PT, y: line.y };
      stamps.push(await typedStamp(text, line.page, on, inkColour(values.ink ?? 'black')));
    }
    const signed = await signPdf(bytes, name, stamps);
    const isPicture = values.out.toLowerCase().endsWith('.png');
    writeWhole(values.out, isPicture ? await encodePng(await drawPage(signed, line.page, PICTURE_PX_PER_PT)) : signed);
    const { x, y, width } = line;
    if (values.json) console.log(JSON.stringify(rounded({ page: line.page, line: { x, y, width }, box }), null, 2));
    else if ((values.line ?? 'auto') === 'auto')
      console.log(`${values.out}: page ${line.page}, on the line at ${Math.round(x)}, ${Math.round(y)} pt`);
    return 0;
  },
};

type Line = Pick<SignLine, 'page' | 'x' | 'y' | 'width' | 'room'>;

/** A line that is given by its middle is as long as nothing: the signature has its middle there. */
async function lineOf(text: string, where: { bytes: Uint8Array; name: string; page: number | null }): Promise<Line> {
  const { bytes, name, page } = where;
  if (text === 'auto') return findSignLine(bytes, name, page);
  const [x, y, ...rest] = text.split(',').map((v) => (v.trim() === '' ? NaN : Number(v)));
  if (rest.length > 0 || !Number.isFinite(x) || !Number.isFinite(y))
    throw new CoreError('cli/usage', `--line takes auto or X,Y such as 120,640, got "${text}".`);
  return { page: page ?? 1, x, y, width: 0, room: Infinity };
}

async function drawMark(path: string, ink: string) {
  const master = traced(await openMaster(path));
  const artwork = drawVariant(master, inkOf(ink), 'signature');
  const extents = extentsOf(artwork);
  if (!extents) throw new CoreError('cutout/nothing-left');
  const format = partOf(formats, 'pdf', { embed: artwork.drawing === null });
  const size = partOf(sizes, 'width', { widthPx: Math.max(8, Math.round(extents.width)) });
  const { bytes } = await makeFile(artwork, { size, format }, formatHost);
  return { pdf: bytes, extents };
}

const inkColour = (ink: string): string =>
  ink === 'own' ? INKS.black : (INKS[ink as keyof typeof INKS] ?? readColour(ink) ?? INKS.black);

function inkOf(ink: string): Variant {
  if (ink === 'own') return variantOf('signature', 'signature', partOf(fills, 'asIs'));
  const colour = INKS[ink as keyof typeof INKS] ?? readColour(ink);
  if (!colour) throw new CoreError('cli/usage', `--ink takes black, blue, own or a colour, got "${ink}".`);
  return variantOf('signature', 'signature', partOf(fills, 'oneColour', { colour }));
}

const rounded = <T>(value: T): T =>
  JSON.parse(JSON.stringify(value, (_, v) => (typeof v === 'number' ? Math.round(v * 1000) / 1000 : v)));

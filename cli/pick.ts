import { basename } from 'node:path';
import { pickFromPage, readPdfPage } from '../codecs/readPdfPage';
import { isPdf } from '../codecs/sniffKind';
import { readBackSvg } from '../codecs/readBackSvg';
import { CoreError } from '../core/errors';
import { printSvg } from '../core/formats/svg';
import type { RectPx } from '../core/params';
import { type Command, readArguments, readInput, readWhole, writeWhole } from './command';

const help = `tassel pick FILE.pdf --page N --out OUT.svg [options]

Takes paths off a page of a PDF file, as they are: fills, strokes as outlines,
gradients, clips. The SVG's page is round what was picked, in points. The file is
read back and checked.

  --page N         which page, from 1 on
  --rect X,Y,W,H   what lies in this rectangle alone, in points from the page's
                   upper left corner; all of the page without it
  --json           prints what was picked, where it is, and what is no path there`;

export const pick: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      out: { type: 'string' },
      page: { type: 'string' },
      rect: { type: 'string' },
      json: { type: 'boolean' },
    });
    if (positionals.length !== 1) throw new CoreError('cli/usage', `pick takes one file, got ${positionals.length}.`);
    if (!values.out) throw new CoreError('cli/usage', 'pick needs --out.');
    if (!/\.svg$/i.test(values.out)) throw new CoreError('cli/usage', '--out takes a name that ends in .svg.');
    const number = readWhole(values.page ?? '1', 'page', 1, 100_000);
    const rect = values.rect === undefined ? null : readRect(values.rect);
    const name = basename(positionals[0]);
    const bytes = readInput(positionals[0]);
    if (!isPdf(bytes)) throw new CoreError('intake/unsupported', `${name} is no PDF file.`, { file: name });
    const page = await readPdfPage(bytes, name, number);
    const picked = pickFromPage(page, rect);
    if (!picked)
      throw new CoreError(
        'intake/no-paths',
        `${name}: nothing drawn as paths lies ${rect ? 'in that rectangle' : 'there'} on page ${number}` +
          `${page.pictures.length > 0 ? '; there are pictures, which can be taken in as PNG' : ''}.`,
        { file: name },
      );
    const { drawing, box, texts, pictures } = picked;
    const content = new TextEncoder().encode(
      printSvg(drawing, { widthPx: drawing.widthPx, heightPx: drawing.heightPx, ppi: null }),
    );
    readBackSvg(content, values.out);
    writeWhole(values.out, content);
    if (texts > 0) console.error(`${name}: text whose letters are no paths stands there too, and was left out.`);
    if (values.json) {
      const report = { page: number, objects: drawing.shapes.length, ...rounded(box), texts, pictures };
      console.log(JSON.stringify(report, null, 2));
    }
    return 0;
  },
};

function readRect(text: string): RectPx {
  const n = text.split(',').map(Number);
  if (n.length !== 4 || !n.every(Number.isFinite) || n[2] <= 0 || n[3] <= 0)
    throw new CoreError('cli/usage', `--rect takes X,Y,W,H such as 40,60,120,80, got "${text}".`);
  return { x: n[0], y: n[1], width: n[2], height: n[3] };
}

const rounded = (b: RectPx) =>
  Object.fromEntries(Object.entries(b).map(([key, v]) => [key, Math.round(v * 1000) / 1000]));

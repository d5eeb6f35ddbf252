import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  PDFArray,
  PDFDocument,
  PDFName,
  type PDFPage,
  type PDFRef,
  StandardFonts,
  degrees,
  rgb,
} from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { drawMooringAgreement } from '../../demo/mooringAgreement';

/** A document to sign, and the line on which it should be: points from the upper left of the page as it is seen. */
export interface Agreement {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly page: number;
  readonly line: { readonly x: number; readonly y: number; readonly width: number };
}

const [WIDTH, HEIGHT] = [595, 842];

async function onePage(draw: (page: PDFPage, pdf: PDFDocument) => Promise<void> | void, size = [WIDTH, HEIGHT]) {
  const pdf = await PDFDocument.create();
  const page = pdf.addPage(size as [number, number]);
  page.setFont(await pdf.embedFont(StandardFonts.TimesRoman));
  page.setFontSize(11);
  await draw(page, pdf);
  const tail = tails.get(pdf);
  if (!tail) return pdf.save();
  await pdf.flush();
  const held = page.node.get(PDFName.of('Contents'));
  const parts = held instanceof PDFArray ? held.asArray() : [held as PDFRef];
  page.node.set(PDFName.of('Contents'), pdf.context.obj([...parts, tail]));
  return pdf.save();
}
/** What is left open at the end of a page's content. */
const tails = new Map<PDFDocument, PDFRef>();

function text(page: PDFPage, x: number, y: number, words: string, size = 11): void {
  page.drawText(words, { x, y: page.getHeight() - y, size });
}
function body(page: PDFPage, from = 90, count = 12): void {
  for (let k = 0; k < count; k++)
    text(
      page,
      70,
      from + k * 18,
      `${k + 1}. The berth is let with water and light; gates are left as they were found.`,
    );
}
const rule = (page: PDFPage, x: number, y: number, width: number, thickness = 0.7) =>
  page.drawLine({
    start: { x, y: page.getHeight() - y },
    end: { x: x + width, y: page.getHeight() - y },
    thickness,
    color: rgb(0, 0, 0),
  });

/** Of underscores or dots: they begin where the words before them end. */
function row(sign: string, count: number, before: string) {
  return onePage(async (page, pdf) => {
    body(page);
    const font = await pdf.embedFont(StandardFonts.TimesRoman);
    text(page, 70, 560, before + sign.repeat(count));
    text(page, 70, 640, `Date: ${sign.repeat(Math.round(count / 3))}`);
    const [x, width] = [70 + font.widthOfTextAtSize(before, 11), font.widthOfTextAtSize(sign.repeat(count), 11)];
    // Underscores lie below the line of writing, dots on it.
    rows.set(sign, { x, y: sign === '_' ? 561.2 : 559.5, width });
  });
}
const rows = new Map<string, Agreement['line']>();

function outside(program: string, bytes: Uint8Array, args: (from: string, to: string) => string[]): Uint8Array {
  const folder = mkdtempSync(join(tmpdir(), 'tassel-agreement-'));
  try {
    writeFileSync(join(folder, 'in.pdf'), bytes);
    execFileSync(program, args(join(folder, 'in.pdf'), join(folder, 'out.pdf')), { stdio: 'pipe' });
    return new Uint8Array(readFileSync(join(folder, 'out.pdf')));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Documents of different making, each with one line to sign on among others. */
export async function drawAgreements(): Promise<Agreement[]> {
  const mooring = await drawMooringAgreement();
  const ruled = await onePage((page) => {
    body(page);
    rule(page, 70, 120 - 40, 455);
    rule(page, 330, 600, 190);
    text(page, 330, 613, '(Signature)', 9);
    rule(page, 70, 600, 150);
    text(page, 70, 613, '(Place, date)', 9);
  });
  const underscored = await row('_', 34, 'Signed: ');
  const dotted = await row('.', 90, 'Signature of the tenant ');
  const turned = await onePage((page) => {
    // Written along the long side, and turned upright by the page's own flag.
    page.setRotation(degrees(90));
    // Seen: 842 wide, 595 high; a point (x, y) of what is seen lies at (y, x) from the lower left corner.
    const at = (x: number, y: number) => ({ x: y, y: x });
    page.drawText('This agreement is signed by both sides.', { ...at(80, 120), size: 13, rotate: degrees(90) });
    page.drawLine({ start: at(500, 430), end: at(700, 430), thickness: 0.8 });
    page.drawText('Authorised signature', { ...at(500, 444), size: 9, rotate: degrees(90) });
  });
  const unbalanced = await onePage((page, pdf) => {
    body(page, 90, 6);
    rule(page, 90, 500, 220);
    text(page, 90, 514, 'Signature', 9);
    const stream = pdf.context.register(
      pdf.context.stream('Q q 0.4 0 0 0.4 30 30 cm 1 0 0 rg q BT (a Q in words \\() Tj'),
    );
    // Set at the very end: the library writes what was drawn only then.
    tails.set(pdf, stream);
  });
  const offset = await onePage((page) => {
    page.setMediaBox(-120, 60, WIDTH + 200, HEIGHT + 200);
    page.setCropBox(0, 100, WIDTH, HEIGHT);
    page.drawText('Witnessed and agreed.', { x: 80, y: 100 + HEIGHT - 200, size: 12 });
    page.drawRectangle({ x: 80, y: 100 + HEIGHT - 480, width: 200, height: 0.5, color: rgb(0.4, 0.4, 0.4) });
    page.drawText('Signature', { x: 80, y: 100 + HEIGHT - 492, size: 8 });
  });
  const scanned = await onePage(async (page, pdf) => {
    const clauses = Array.from(
      { length: 14 },
      (_, k) =>
        `<text x="140" y="${200 + k * 44}" font-size="26" fill="#333">` +
        `Clause ${k + 1}: what was found is left as found.</text>`,
    );
    const lines = [
      ['M140 1300h460', 140, 'Signature'],
      ['M760 1300h240', 760, 'Date'],
    ].map(
      ([d, x, words]) =>
        `<path d="${d}" stroke="#444" stroke-width="2.2"/>` +
        `<text x="${x}" y="1330" font-size="20" fill="#444">${words}</text>`,
    );
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="1240" height="1754">' +
      `<rect width="1240" height="1754" fill="#f4f1ea"/>${clauses.join('')}${lines.join('')}</svg>`;
    page.drawImage(await pdf.embedJpg(await sharp(Buffer.from(svg)).jpeg({ quality: 70 }).toBuffer()), {
      ...{ x: 0, y: 0, width: WIDTH, height: HEIGHT },
    });
  });
  const form = await onePage((page, pdf) => {
    body(page, 90, 5);
    const fields = pdf.getForm();
    fields.createTextField('boat').addToPage(page, { x: 70, y: 500, width: 200, height: 18 });
    fields.createCheckBox('paid').addToPage(page, { x: 300, y: 500, width: 14, height: 14 });
    page.drawLine({
      ...{ start: { x: 70, y: 300 }, end: { x: 270, y: 300 }, thickness: 1, dashArray: [2, 2] },
    });
    text(page, 70, HEIGHT - 288, 'Sign here', 9);
  });
  const px = WIDTH / 1240;
  return [
    { name: 'mooring', bytes: mooring.bytes, page: 2, line: mooring.line },
    { name: 'ruled', bytes: ruled, page: 1, line: { x: 330, y: 600, width: 190 } },
    { name: 'underscored', bytes: underscored, page: 1, line: rows.get('_') as Agreement['line'] },
    { name: 'dotted', bytes: dotted, page: 1, line: rows.get('.') as Agreement['line'] },
    { name: 'turned', bytes: turned, page: 1, line: { x: 500, y: 430, width: 200 } },
    { name: 'unbalanced', bytes: unbalanced, page: 1, line: { x: 90, y: 500, width: 220 } },
    { name: 'offset', bytes: offset, page: 1, line: { x: 80, y: 480, width: 200 } },
    { name: 'scanned', bytes: scanned, page: 1, line: { x: 140 * px, y: 1300 * px, width: 460 * px } },
    { name: 'form', bytes: form, page: 1, line: { x: 70, y: HEIGHT - 300, width: 200 } },
    {
      name: 'distilled',
      bytes: outside('gs', ruled, (a, b) => [
        '-q',
        '-dNOPAUSE',
        '-dBATCH',
        '-sDEVICE=pdfwrite',
        `-sOutputFile=${b}`,
        a,
      ]),
      ...{ page: 1, line: { x: 330, y: 600, width: 190 } },
    },
    {
      name: 'packed',
      bytes: outside('qpdf', underscored, (a, b) => ['--object-streams=generate', '--linearize', a, b]),
      ...{ page: 1, line: rows.get('_') as Agreement['line'] },
    },
    {
      name: 'cairo',
      bytes: outside('pdftocairo', dotted, (a, b) => ['-pdf', a, b]),
      ...{ page: 1, line: rows.get('.') as Agreement['line'] },
    },
  ];
}

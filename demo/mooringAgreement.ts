import { PDFDocument, type PDFFont, type PDFPage, StandardFonts, rgb } from '@cantoo/pdf-lib';
import { palette } from './palette';
import { pdfColour } from './yearlyReview';

const [WIDTH, HEIGHT] = [595, 842];
const MARGIN = 64;
/** Where the chair signs, points from the upper left corner: the line's left end, and its length. */
const SIGN = { x: MARGIN, y: 640, width: 210 };

/** The mooring agreement: two pages, and on the second a line for the chair to sign on and one for the date. */
export async function drawMooringAgreement() {
  const pdf = await PDFDocument.create();
  const day = new Date('2026-03-02T09:00:00Z');
  pdf.setTitle('Mooring agreement');
  pdf.setCreationDate(day);
  pdf.setModificationDate(day);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const bold = await pdf.embedFont(StandardFonts.HelveticaBold);
  const pages = [pdf.addPage([WIDTH, HEIGHT]), pdf.addPage([WIDTH, HEIGHT])];
  heading(pages[0], bold, 'Mooring agreement');
  paragraphs(pages[0], font, 170, [
    'Between Harrowmere Lock Keepers’ Trust, which looks after the canal between',
    'the two flights, and the owner of the boat named on the next page.',
    '',
    '1   The trust lets one berth on the lower cut for a year, water and light included.',
    '2   The berth is paid for by the quarter, before the first of its months.',
    '3   The owner keeps the towpath clear and the boat afloat and insured.',
    '4   Locks are worked by hand. Gates are left as they were found.',
    '5   Either side may end this with three months’ notice in writing.',
  ]);
  heading(pages[1], bold, 'Signatures');
  paragraphs(pages[1], font, 170, [
    'Boat: Kittiwake, 17.4 m, berth 12.',
    'This agreement holds from the first day of April until the last of March.',
    'Two copies are made, one for each side.',
  ]);
  line(pages[1], SIGN.x, SIGN.y, SIGN.width);
  small(pages[1], font, SIGN.x, SIGN.y, 'Signature, Odile Farrant, chair of the trust');
  line(pages[1], 360, SIGN.y, 110);
  small(pages[1], font, 360, SIGN.y, 'Date');
  return { fileName: 'mooring-agreement.pdf', bytes: await pdf.save(), page: 2, line: SIGN };
}

function heading(page: PDFPage, font: PDFFont, text: string): void {
  page.drawRectangle({ x: 0, y: HEIGHT - 18, width: WIDTH, height: 18, color: pdfColour(palette.canalGreen) });
  page.drawText(text, { x: MARGIN, y: HEIGHT - 116, size: 24, font, color: pdfColour(palette.lampBlack) });
}

function paragraphs(page: PDFPage, font: PDFFont, top: number, lines: readonly string[]): void {
  lines.forEach((text, k) => page.drawText(text, { x: MARGIN, y: HEIGHT - top - k * 20, size: 12, font }));
}

const line = (page: PDFPage, x: number, y: number, width: number) =>
  page.drawLine({
    start: { x, y: HEIGHT - y },
    end: { x: x + width, y: HEIGHT - y },
    thickness: 0.6,
    color: rgb(0.2, 0.2, 0.2),
  });

const small = (page: PDFPage, font: PDFFont, x: number, y: number, text: string) =>
  page.drawText(text, { x, y: HEIGHT - y - 12, size: 8.5, font, color: rgb(0.35, 0.35, 0.35) });

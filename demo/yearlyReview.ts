import { PDFDocument, type PDFFont, type PDFPage, StandardFonts, rgb } from '@cantoo/pdf-lib';
import { mistyTowpath } from './grounds/grounds';
import { toJpeg } from './capture';
import { palette } from './palette';

const [WIDTH, HEIGHT] = [595, 842];
const MARGIN = 56;
/** Where the mooring partner's mark stands on page 2, points from the upper left corner. */
const MARK = { x: 380, y: 610, side: 120 };

/** The trust's yearly review as a printer's program leaves it: two pages, its text in a font that is not embedded. */
export async function drawYearlyReview() {
  const pdf = await PDFDocument.create();
  const day = new Date('2026-02-03T09:00:00Z');
  pdf.setCreationDate(day);
  pdf.setModificationDate(day);
  // The name of a font that every reader has, so that none travels with the file.
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const bold = await pdf.embedFont(StandardFonts.HelveticaBold);
  firstPage(pdf.addPage([WIDTH, HEIGHT]), font, bold);
  const second = pdf.addPage([WIDTH, HEIGHT]);
  heading(second, bold, 'Those who moor with us');
  const photo = await pdf.embedJpg(await toJpeg(mistyTowpath(900, 420), 88));
  second.drawImage(photo, { x: MARGIN, y: HEIGHT - 390, width: WIDTH - 2 * MARGIN, height: 225 });
  paragraph(second, font, 430, [
    'Forty-one boats wintered above the upper gates, nine more than the year',
    'before. The new pontoon was paid for by our mooring partner, whose mark',
    'stands below and may be shown beside ours until the end of next year.',
  ]);
  partnerMark(second);
  second.drawText('Otterling Moorings', { x: MARK.x + 8, y: HEIGHT - MARK.y - MARK.side - 22, size: 11, font });
  return {
    fileName: 'yearly-review.pdf',
    markName: 'Otterling Moorings',
    bytes: await pdf.save(),
    page: 2,
    mark: { x: MARK.x - 4, y: MARK.y - 4, width: MARK.side + 8, height: MARK.side + 8 },
  };
}

export const pdfColour = (hex: string) => {
  const part = (k: number) => parseInt(hex.slice(k, k + 2), 16) / 255;
  return rgb(part(1), part(3), part(5));
};

function heading(page: PDFPage, font: PDFFont, text: string): void {
  page.drawRectangle({ x: 0, y: HEIGHT - 18, width: WIDTH, height: 18, color: pdfColour(palette.canalGreen) });
  page.drawText(text, { x: MARGIN, y: HEIGHT - 110, size: 26, font, color: pdfColour(palette.lampBlack) });
}

function paragraph(page: PDFPage, font: PDFFont, top: number, lines: readonly string[]): void {
  lines.forEach((line, k) => page.drawText(line, { x: MARGIN, y: HEIGHT - top - k * 19, size: 13, font }));
}

function firstPage(page: PDFPage, font: PDFFont, bold: PDFFont): void {
  heading(page, bold, 'The year on the water');
  paragraph(page, font, 160, [
    'Locks worked by hand, and by how many hands: the bars tell of each quarter.',
    'The lower gates were closed for eleven days in March for new sills.',
  ]);
  [118, 246, 301, 167].forEach((value, k) => {
    const height = value * 0.8;
    const fill = pdfColour(k === 2 ? palette.paddleRed : palette.fogBlue);
    page.drawRectangle({ x: MARGIN + 20 + k * 112, y: 300, width: 76, height, color: fill });
    page.drawText(`${value}`, { x: MARGIN + 46 + k * 112, y: 306 + height, size: 12, font });
  });
  const line = { thickness: 1, color: pdfColour(palette.lampBlack) };
  page.drawLine({ start: { x: MARGIN, y: 300 }, end: { x: WIDTH - MARGIN, y: 300 }, ...line });
}

/** A bollard with a rope round it before a rising sun, in a field of 120 × 120, y down. */
function partnerMark(page: PDFPage): void {
  const at = { x: MARK.x, y: HEIGHT - MARK.y };
  const draw = (d: string, fill: string) => page.drawSvgPath(d, { ...at, color: pdfColour(fill) });
  draw('M6 86A54 54 0 0 1 114 86Z', palette.enamelCream);
  draw('M40 44C40 30 80 30 80 44C80 52 74 54 72 56L76 96H44L48 56C46 54 40 52 40 44Z', palette.lampBlack);
  draw('M6 90H114V98H6Z', palette.canalGreen);
  draw('M18 104Q30 98 42 104T66 104T90 104V110Q78 116 66 110T42 110T18 110Z', palette.fogBlue);
  const rope = { ...at, borderColor: pdfColour(palette.paddleRed), borderWidth: 5 };
  page.drawSvgPath('M36 68C46 76 74 76 84 68', rope);
  page.drawSvgPath('M36 78C46 86 74 86 84 78C96 72 100 60 112 62', rope);
}

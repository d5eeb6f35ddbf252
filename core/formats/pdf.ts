import type { PDFDocument, PDFOperator, PDFPage, PDFRef } from '@cantoo/pdf-lib';
import { type Drawing, type Paint, type Shape, wholeStops } from '../artwork/drawing';
import { rgbFromHex } from '../colour/hex';
import { CoreError } from '../errors';
import { coordsOf } from '../vector/path';
import { flagField, numberField, textField } from '../params';
import { defineFormat, embedField, encoded } from './format';
import { MM_PER_INCH, POINTS_PER_INCH } from '../units';
import { pointsOf } from './page';

export type Lib = typeof import('@cantoo/pdf-lib');

/** Room for crop marks outside of the bleed, and how they are drawn, mm and points. */
const MARKS_MM = 8;
const MARK_LENGTH_MM = 5;
const MARK_OFFSET_MM = 2;
const MARK_PT = 0.25;

/** One page exactly round the paths, transparent; no text, picture, date or name inside. */
export const pdf = defineFormat({
  id: 'pdf',
  title: 'PDF',
  extension: 'pdf',
  mimeType: 'application/pdf',
  accepts: 'paths',
  hint: 'Paths on a page of the very size, for print.',
  params: {
    spot: textField({
      label: 'Spot colour',
      hint: 'Its name, for a variant of one colour; empty for none.',
      most: 60,
    }),
    bleedMm: numberField({ label: 'Bleed', initial: 0, min: 0, max: 25, step: 1, unit: 'mm' }),
    cropMarks: flagField({ label: 'Crop marks', initial: false }),
    embed: embedField,
  },
  embeds: (p) => p.embed,
  aroundMm: (p) => p.bleedMm + (p.cropMarks ? MARKS_MM : 0),
  async write(file, params, host) {
    // Loaded when a file is written: screens read titles from here and write nothing.
    const lib = await import('@cantoo/pdf-lib');
    const document = await lib.PDFDocument.create({ updateMetadata: false });
    const { width, height, scale } = pointsOf(file);
    const perMm = POINTS_PER_INCH / MM_PER_INCH;
    const around = (params.bleedMm + (params.cropMarks ? MARKS_MM : 0)) * perMm;
    const page = document.addPage([width + 2 * around, height + 2 * around]);
    if (around > 0) {
      const bleed = params.bleedMm * perMm;
      page.setTrimBox(around, around, width, height);
      page.setBleedBox(around - bleed, around - bleed, width + 2 * bleed, height + 2 * bleed);
    }
    if (params.cropMarks) drawCropMarks({ around, width, height, bleed: params.bleedMm * perMm, perMm }, page, lib);
    if (file.drawing) {
      // Down is up in PDF.
      const matrix = [scale, 0, 0, -scale, around, around + height] as const;
      paintOnPage(file.drawing, { lib, document, page, matrix, spot: spotOf(file.drawing, params.spot) });
    } else {
      const picture = await document.embedPng(await encoded('png', { ...file, ppi: null }, host, { palette: false }));
      page.drawImage(picture, { x: around, y: around, width, height });
    }
    dropEmpty(page, lib);
    return document.save({ useObjectStreams: false, addDefaultPage: false });
  },
});

/** @throws CoreError 'format/no-spot' when there is more than one colour */
function spotOf({ shapes }: Drawing, name: string): string | null {
  if (name.trim() === '') return null;
  const colours = new Set(shapes.map(({ paint }) => (paint.kind === 'colour' ? paint.hex : 'gradient')));
  if (colours.size !== 1 || colours.has('gradient')) throw new CoreError('format/no-spot');
  return name.trim();
}

interface Marks {
  /** From the page's edge to where it is cut, points. */
  readonly around: number;
  readonly width: number;
  readonly height: number;
  readonly bleed: number;
  readonly perMm: number;
}

/** Two short lines at each corner of where the page is cut, clear of the bleed. */
function drawCropMarks({ around, width, height, bleed, perMm }: Marks, page: PDFPage, lib: Lib): void {
  const from = bleed + MARK_OFFSET_MM * perMm;
  const to = from + MARK_LENGTH_MM * perMm;
  const operators: PDFOperator[] = [lib.pushGraphicsState(), lib.setLineWidth(MARK_PT)];
  for (const [x, sx] of [
    [around, -1],
    [around + width, 1],
  ]) {
    for (const [y, sy] of [
      [around, -1],
      [around + height, 1],
    ]) {
      operators.push(lib.moveTo(x + sx * from, y), lib.lineTo(x + sx * to, y), lib.stroke());
      operators.push(lib.moveTo(x, y + sy * from), lib.lineTo(x, y + sy * to), lib.stroke());
    }
  }
  page.pushOperators(...operators, lib.popGraphicsState());
}

// The library lays a page out for text and pictures, which this one has none of.
function dropEmpty(page: PDFPage, lib: Lib): void {
  const resources = page.node.normalizedEntries().Resources;
  for (const key of resources.keys()) {
    const entry = resources.lookupMaybe(key, lib.PDFDict);
    if (entry?.keys().length === 0) resources.delete(key);
  }
  page.node.delete(lib.PDFName.of('Annots'));
}

/** Paints a drawing on a page, where the matrix puts it. */
export function paintOnPage(drawing: Drawing, sheet: Sheet): void {
  const { lib, page, matrix } = sheet;
  const m = matrix as [number, number, number, number, number, number];
  page.pushOperators(lib.pushGraphicsState(), lib.concatTransformationMatrix(...m));
  for (const shape of drawing.shapes) page.pushOperators(...operatorsOf(shape, sheet));
  page.pushOperators(lib.popGraphicsState());
}

export interface Sheet {
  readonly lib: Lib;
  readonly document: PDFDocument;
  readonly page: PDFPage;
  /** From the drawing to the page: patterns are measured on the page itself. */
  readonly matrix: readonly number[];
  /** The ink that the one colour is printed with, by its name. */
  readonly spot?: string | null;
}

function operatorsOf(shape: Shape, sheet: Sheet): PDFOperator[] {
  const { lib } = sheet;
  const { verbs, coords } = shape.path;
  const operators: PDFOperator[] = [
    lib.pushGraphicsState(),
    ...paintOf(shape.paint, sheet),
    ...opacityOf(shape, sheet),
  ];
  for (let v = 0, k = 0; v < verbs.length; v++) {
    const c = coords.slice(k, k + coordsOf(verbs[v])).map((n) => Math.round(n * 1e4) / 1e4);
    if (verbs[v] === 'M') operators.push(lib.moveTo(c[0], c[1]));
    else if (verbs[v] === 'L') operators.push(lib.lineTo(c[0], c[1]));
    else if (verbs[v] === 'C') operators.push(lib.appendBezierCurve(c[0], c[1], c[2], c[3], c[4], c[5]));
    else operators.push(lib.closePath());
    k += c.length;
  }
  // The library has no operator of its own for filling by the even-odd rule.
  const fill = shape.rule === 'evenodd' ? lib.PDFOperator.of('f*' as never) : lib.fill();
  return [...operators, fill, lib.popGraphicsState()];
}

function paintOf(paint: Paint, { lib, document, page, matrix, spot }: Sheet): PDFOperator[] {
  if (paint.kind === 'colour') {
    const [r, g, b] = rgbFromHex(paint.hex).map((v) => v / 255);
    return spot ? inInk(spot, [r, g, b], { lib, document, page }) : [lib.setFillingRgbColor(r, g, b)];
  }
  const { context } = document;
  const geometry = paint.kind === 'linear' ? linearCoords(paint.geometry) : radialCoords(paint.geometry);
  const shading = context.obj({
    ShadingType: paint.kind === 'linear' ? 2 : 3,
    ColorSpace: 'DeviceRGB',
    Coords: geometry,
    Function: gradientFunction(paint.stops, document),
    Extend: [true, true],
  });
  const pattern = context.register(
    context.obj({ Type: 'Pattern', PatternType: 2, Shading: shading, Matrix: [...matrix] }),
  );
  const resources = page.node.normalizedEntries().Resources;
  const patterns = resources.lookupMaybe(lib.PDFName.of('Pattern'), lib.PDFDict) ?? context.obj({});
  const name = lib.PDFName.of(`P${patterns.keys().length + 1}`);
  patterns.set(name, pattern);
  resources.set(lib.PDFName.of('Pattern'), patterns);
  return [lib.PDFOperator.of('cs' as never, [lib.PDFName.of('Pattern')]), lib.PDFOperator.of('scn' as never, [name])];
}

/** A named ink in full, shown in a colour where there is none. @see ISO 32000-1, 8.6.6.4: separation colour spaces */
function inInk(
  name: string,
  rgb: readonly number[],
  { lib, document, page }: Pick<Sheet, 'lib' | 'document' | 'page'>,
): PDFOperator[] {
  const resources = page.node.normalizedEntries().Resources;
  const spaces = resources.lookupMaybe(lib.PDFName.of('ColorSpace'), lib.PDFDict) ?? document.context.obj({});
  const key = lib.PDFName.of('Ink');
  if (!spaces.has(key)) {
    const tint = document.context.obj({ FunctionType: 2, Domain: [0, 1], C0: [1, 1, 1], C1: [...rgb], N: 1 });
    const space = document.context.obj([
      lib.PDFName.of('Separation'),
      lib.PDFName.of(name),
      lib.PDFName.of('DeviceRGB'),
      tint,
    ]);
    spaces.set(key, document.context.register(space));
    resources.set(lib.PDFName.of('ColorSpace'), spaces);
  }
  const one = lib.PDFNumber.of(1);
  return [lib.PDFOperator.of('cs' as never, [key]), lib.PDFOperator.of('scn' as never, [one])];
}

const linearCoords = (g: { x1: number; y1: number; x2: number; y2: number }) => [g.x1, g.y1, g.x2, g.y2];
const radialCoords = (g: { cx: number; cy: number; r: number }) => [g.cx, g.cy, 0, g.cx, g.cy, g.r];

// Stops are joined by straight changes of colour, one function from each to the next.
function gradientFunction(stops: readonly { at: number; hex: string }[], { context }: PDFDocument): PDFRef {
  const colour = (hex: string) => rgbFromHex(hex).map((v) => v / 255);
  const all = wholeStops(stops);
  const functions = all
    .slice(1)
    .map((to, k) =>
      context.register(
        context.obj({ FunctionType: 2, Domain: [0, 1], C0: colour(all[k].hex), C1: colour(to.hex), N: 1 }),
      ),
    );
  return context.register(
    context.obj({
      FunctionType: 3,
      Domain: [0, 1],
      Functions: functions,
      Bounds: all.slice(1, -1).map((s) => s.at),
      Encode: functions.flatMap(() => [0, 1]),
    }),
  );
}

function opacityOf({ opacity }: Shape, { document, page, lib }: Sheet): PDFOperator[] {
  if (opacity >= 1) return [];
  const state = document.context.register(document.context.obj({ Type: 'ExtGState', ca: opacity }));
  return [lib.setGraphicsState(page.node.newExtGState('Faint', state))];
}

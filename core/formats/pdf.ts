import type { PDFDocument, PDFOperator, PDFPage, PDFRef } from '@cantoo/pdf-lib';
import type { Drawing, Paint, Shape } from '../artwork/drawing';
import { rgbFromHex } from '../colour/hex';
import { coordsOf } from '../vector/path';
import { defineFormat } from './format';

/** Without a physical size a pixel is what style sheets take it for: 96 to the inch. */
const CSS_PPI = 96;
const POINTS_PER_INCH = 72;

export type Lib = typeof import('@cantoo/pdf-lib');

/** One page exactly round the paths, transparent; no text, picture, date or name inside. */
export const pdf = defineFormat({
  id: 'pdf',
  title: 'PDF',
  extension: 'pdf',
  mimeType: 'application/pdf',
  accepts: 'paths',
  hint: 'Paths on a page of the very size, for print.',
  params: {},
  async write(file) {
    // Loaded when a file is written: screens read titles from here and write nothing.
    const lib = await import('@cantoo/pdf-lib');
    const document = await lib.PDFDocument.create({ updateMetadata: false });
    const points = POINTS_PER_INCH / (file.ppi ?? CSS_PPI);
    const page = document.addPage([file.widthPx * points, file.heightPx * points]);
    const drawing = file.drawing as Drawing;
    const scale = (file.widthPx * points) / drawing.widthPx;
    // Down is up in PDF.
    const matrix = [scale, 0, 0, -scale, 0, file.heightPx * points] as const;
    paintOnPage(drawing, { lib, document, page, matrix });
    dropEmpty(page, lib);
    return document.save({ useObjectStreams: false, addDefaultPage: false });
  },
});

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

function paintOf(paint: Paint, { lib, document, page, matrix }: Sheet): PDFOperator[] {
  if (paint.kind === 'colour') {
    const [r, g, b] = rgbFromHex(paint.hex).map((v) => v / 255);
    return [lib.setFillingRgbColor(r, g, b)];
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

const linearCoords = (g: { x1: number; y1: number; x2: number; y2: number }) => [g.x1, g.y1, g.x2, g.y2];
const radialCoords = (g: { cx: number; cy: number; r: number }) => [g.cx, g.cy, 0, g.cx, g.cy, g.r];

// Stops are joined by straight changes of colour, one function from each to the next.
function gradientFunction(stops: readonly { at: number; hex: string }[], { context }: PDFDocument): PDFRef {
  const colour = (hex: string) => rgbFromHex(hex).map((v) => v / 255);
  const first = { at: 0, hex: stops[0].hex };
  const last = { at: 1, hex: stops[stops.length - 1].hex };
  const all = [...(stops[0].at > 0 ? [first] : []), ...stops, ...(stops[stops.length - 1].at < 1 ? [last] : [])];
  if (all.length === 1) all.push(last);
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

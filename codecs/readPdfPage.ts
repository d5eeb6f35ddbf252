import type { Drawing, Paint, Shape, Stop } from '../core/artwork/drawing';
import { placeDrawing } from '../core/artwork/drawing';
import { CoreError } from '../core/errors';
import { PICKED_SHARE, boxRound, shareInside } from '../core/vector/boxes';
import { IDENTITY, type Matrix, multiply } from '../core/geometry/matrix';
import type { RectPx } from '../core/params';
import { type Path, PathBuilder, boundsOfPath, transformPath } from '../core/vector/path';
import { type Clip, clipShape } from '../core/vector/polygons';
import { polylineOf, strokeOutline } from './svg/strokeOutline';
import { readColour } from './svg/svgValues';

/** What lies on a page of a PDF file; lengths in points from the page's upper left corner. */
export interface PdfPage {
  readonly widthPt: number;
  readonly heightPt: number;
  /** Filled outlines, the first lowest; strokes are outlined. */
  readonly shapes: readonly Shape[];
  /** Where text stands whose letters are not paths, and where pictures are. */
  readonly texts: readonly RectPx[];
  readonly pictures: readonly PagePicture[];
}

/** A picture on a page: where it lies, and how to come by its pixels. */
export interface PagePicture extends RectPx {
  /** The object's name in the file, or its data where it stands among the page's operators; null for a stencil. */
  readonly source: string | PdfPixels | null;
  /** Stands on its head or is mirrored, as the file has it. */
  readonly flips: { readonly across: boolean; readonly down: boolean };
}

/** Pixels as pdf.js gives them. */
export interface PdfPixels {
  readonly width: number;
  readonly height: number;
  /** 1: one bit a pixel, 2: R G B, 3: R G B A. */
  readonly kind: number;
  readonly data: Uint8Array | Uint8ClampedArray;
}

const MOST_BYTES = 80 * 1024 * 1024;
const MOST_OPERATORS = 400_000;
const MOST_MS = 10_000;
/** Outlines of strokes and clips are this near to true ones, points: a hundredth of a pixel of a printed page. */
const NEAR_PT = 0.01;
const SCALE = 16;

type Pdfjs = typeof import('pdfjs-dist/legacy/build/pdf.mjs');
export type Document = Awaited<ReturnType<Pdfjs['getDocument']>['promise']>;

/** Opens a PDF file for as long as some work lasts. @throws CoreError 'intake/…' naming the file and what is wrong */
export async function withPdf<T>(bytes: Uint8Array, name: string, work: (pdf: Document) => Promise<T>): Promise<T> {
  const details = { file: name };
  if (bytes.length > MOST_BYTES)
    throw new CoreError(
      'intake/too-large',
      `${name} has ${Math.ceil(bytes.length / 1048576)} MB; the most is 80 MB. Save the page that is wanted alone.`,
      details,
    );
  const { VerbosityLevel, getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const task = getDocument({
    data: Uint8Array.from(bytes),
    verbosity: VerbosityLevel.ERRORS,
    isEvalSupported: false,
    stopAtErrors: false,
    useSystemFonts: false,
  });
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error('it takes too long to read')), MOST_MS);
  });
  try {
    return await Promise.race([task.promise.then(work), late]);
  } catch (cause) {
    if (cause instanceof CoreError) throw cause;
    if ((cause as Error).name === 'PasswordException')
      throw new CoreError(
        'intake/unsupported',
        `${name} is locked by a password. Ask for it without one, or save it anew without.`,
        details,
        { cause },
      );
    const what =
      (cause as Error).message === 'it takes too long to read'
        ? 'it takes too long to read'
        : 'its pages cannot be read';
    throw new CoreError(
      'intake/damaged',
      `${name} is damaged: ${what}. Ask for the file again, or save it anew as PDF.`,
      details,
      { cause },
    );
  } finally {
    clearTimeout(timer);
    await task.destroy();
  }
}

/** How many pages a file has, and how large each is, in points. */
export const readPdfPages = (bytes: Uint8Array, name: string) =>
  withPdf(bytes, name, async (pdf) => {
    const pages: { widthPt: number; heightPt: number }[] = [];
    for (let k = 1; k <= Math.min(pdf.numPages, 2000); k++) {
      const { width, height } = (await pdf.getPage(k)).getViewport({ scale: 1 });
      pages.push({ widthPt: width, heightPt: height });
    }
    return pages;
  });

/** @param number  1 for the first page @throws CoreError 'intake/…' naming the file and what is wrong */
export const readPdfPage = (bytes: Uint8Array, name: string, number: number): Promise<PdfPage> =>
  withPdf(bytes, name, (pdf) => readPage(pdf, name, number));

/** A page of a file that is open. @throws CoreError 'intake/…' */
export async function readPage(pdf: Document, name: string, number: number): Promise<PdfPage> {
  if (number < 1 || number > pdf.numPages)
    throw new CoreError(
      'intake/no-page',
      `${name} has ${pdf.numPages} ${pdf.numPages === 1 ? 'page' : 'pages'}; there is no page ${number}.`,
      { file: name },
    );
  const page = await pdf.getPage(number);
  const viewport = page.getViewport({ scale: 1 });
  const { OPS } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const { fnArray, argsArray } = await page.getOperatorList();
  if (fnArray.length > MOST_OPERATORS)
    throw new CoreError('intake/unsupported', `${name}: page ${number} holds too much to be taken apart.`, {
      file: name,
    });
  const reader = new PageReader(OPS, viewport.transform as unknown as Matrix, (id) =>
    (id.startsWith('g_') ? page.commonObjs : page.objs).get(id),
  );
  fnArray.forEach((code, k) => reader.take(code, (argsArray[k] ?? []) as unknown[]));
  const { items } = await page.getTextContent();
  const texts = items.flatMap((item) => {
    if (!('transform' in item) || item.str.trim() === '') return [];
    const m = multiply(viewport.transform as unknown as Matrix, item.transform as unknown as Matrix);
    const height = Math.hypot(m[2], m[3]);
    return [{ x: m[4], y: m[5] - height, width: item.width, height: height * 1.2 }];
  });
  return {
    widthPt: viewport.width,
    heightPt: viewport.height,
    shapes: reader.shapes,
    texts,
    pictures: reader.pictures,
  };
}

interface State {
  matrix: Matrix;
  fill: Paint;
  stroke: Paint;
  fillAlpha: number;
  strokeAlpha: number;
  lineWidth: number;
  cap: number;
  join: number;
  miterLimit: number;
  dashes: readonly number[];
  dashOffset: number;
  clips: readonly Clip[];
}

const BLACK: Paint = { kind: 'colour', hex: '#000000' };
const CAPS = ['butt', 'round', 'square'];
const JOINS = ['miter', 'round', 'bevel'];

/** Follows a page's operators and gathers what they paint. */
class PageReader {
  readonly shapes: Shape[] = [];
  readonly pictures: PagePicture[] = [];
  private state: State;
  private readonly stack: State[] = [];
  private pendingClip: Clip['rule'] | null = null;

  constructor(
    private readonly ops: Pdfjs['OPS'],
    base: Matrix,
    private readonly find: (id: string) => unknown,
  ) {
    this.state = {
      matrix: base,
      fill: BLACK,
      stroke: BLACK,
      fillAlpha: 1,
      strokeAlpha: 1,
      lineWidth: 1,
      cap: 0,
      join: 0,
      miterLimit: 10,
      dashes: [],
      dashOffset: 0,
      clips: [],
    };
  }

  take(code: number, args: unknown[]): void {
    const { ops, state } = this;
    switch (code) {
      case ops.save:
      case ops.paintFormXObjectBegin:
      case ops.beginGroup:
        this.stack.push({ ...state });
        if (code === ops.paintFormXObjectBegin) this.beginForm(args);
        return;
      case ops.restore:
      case ops.paintFormXObjectEnd:
      case ops.endGroup:
        this.state = this.stack.pop() ?? state;
        return;
      case ops.transform:
        state.matrix = multiply(state.matrix, args as unknown as Matrix);
        return;
      case ops.setLineWidth:
        state.lineWidth = args[0] as number;
        return;
      case ops.setLineCap:
        state.cap = args[0] as number;
        return;
      case ops.setLineJoin:
        state.join = args[0] as number;
        return;
      case ops.setMiterLimit:
        state.miterLimit = args[0] as number;
        return;
      case ops.setDash:
        state.dashes = args[0] as number[];
        state.dashOffset = args[1] as number;
        return;
      case ops.setGState:
        for (const [key, value] of args[0] as [string, unknown][]) {
          if (key === 'ca') state.fillAlpha = value as number;
          else if (key === 'CA') state.strokeAlpha = value as number;
          else if (key === 'LW') state.lineWidth = value as number;
        }
        return;
      case ops.setFillRGBColor:
        state.fill = colourOf(args);
        return;
      case ops.setStrokeRGBColor:
        state.stroke = colourOf(args);
        return;
      case ops.setFillColorN:
        state.fill = this.patternOf(args) ?? state.fill;
        return;
      case ops.setStrokeColorN:
        state.stroke = this.patternOf(args) ?? state.stroke;
        return;
      case ops.clip:
        this.pendingClip = 'nonzero';
        return;
      case ops.eoClip:
        this.pendingClip = 'evenodd';
        return;
      case ops.constructPath:
        this.paint(args);
        return;
      case ops.shadingFill: {
        const paint = this.shadingOf(args[0] as string, state.matrix);
        const clip = state.clips[state.clips.length - 1];
        if (paint && clip) this.add({ path: clip.path, rule: clip.rule }, paint, state.fillAlpha);
        return;
      }
      case ops.paintImageXObject:
      case ops.paintInlineImageXObject:
      case ops.paintImageMaskXObject: {
        const box = boundsOfPath(transformPath(UNIT_BOX, state.matrix));
        const source = code === ops.paintImageMaskXObject ? null : (args[0] as string | PdfPixels);
        // The page's own y grows down by now, a picture's up: upright, it is turned over once.
        const flips = { across: state.matrix[0] < 0, down: state.matrix[3] > 0 };
        if (box) this.pictures.push({ ...box, source, flips });
      }
    }
  }

  private beginForm([matrix, box]: unknown[]): void {
    if (Array.isArray(matrix)) this.state.matrix = multiply(this.state.matrix, matrix as unknown as Matrix);
    const b = box as ArrayLike<number> | null;
    if (!b || b.length < 4) return;
    const path = { verbs: 'MLLLZ', coords: [b[0], b[1], b[2], b[1], b[2], b[3], b[0], b[3]] };
    this.clipBy(transformPath(path, this.state.matrix), 'nonzero');
  }

  private clipBy(path: Path, rule: Clip['rule']): void {
    this.state.clips = [...this.state.clips, { path, rule }];
  }

  private paint(args: unknown[]): void {
    const { ops, state } = this;
    const code = args[0] as number;
    const data = (args[1] as (ArrayLike<number> | null)[])[0];
    if (!data) return;
    const rings = readRings(data);
    const path = joined(rings);
    const placed = transformPath(path, state.matrix);
    const isEvenOdd = code === ops.eoFill || code === ops.eoFillStroke || code === ops.closeEOFillStroke;
    const fills: number[] = [
      ops.fill,
      ops.eoFill,
      ops.fillStroke,
      ops.eoFillStroke,
      ops.closeFillStroke,
      ops.closeEOFillStroke,
    ];
    const strokes: number[] = [
      ops.stroke,
      ops.closeStroke,
      ops.fillStroke,
      ops.eoFillStroke,
      ops.closeFillStroke,
      ops.closeEOFillStroke,
    ];
    if (fills.includes(code))
      this.add({ path: placed, rule: isEvenOdd ? 'evenodd' : 'nonzero' }, state.fill, state.fillAlpha);
    if (strokes.includes(code)) {
      const isClosing = code === ops.closeStroke || code === ops.closeFillStroke || code === ops.closeEOFillStroke;
      const [a, b, c, d] = state.matrix;
      const grown = Math.sqrt(Math.abs(a * d - b * c)) || 1;
      const outline = strokeOutline(
        rings.map((ring) => polylineOf(ring.path, ring.isClosed || isClosing, NEAR_PT / grown)),
        {
          // A line of no width is as thin as a device can draw.
          width: state.lineWidth > 0 ? state.lineWidth : HAIRLINE_PT / grown,
          cap: CAPS[state.cap] ?? 'butt',
          join: JOINS[state.join] ?? 'miter',
          miterLimit: state.miterLimit,
          dashes: state.dashes.length > 0 && state.dashes.some((v) => v > 0) ? [...state.dashes] : [],
          dashOffset: state.dashOffset,
        },
        NEAR_PT / grown,
      );
      this.add({ path: transformPath(outline, state.matrix), rule: 'nonzero' }, state.stroke, state.strokeAlpha);
    }
    if (this.pendingClip) this.clipBy(placed, this.pendingClip);
    this.pendingClip = null;
  }

  private add(own: Clip, paint: Paint, opacity: number): void {
    const clipped = clipShape(own, this.state.clips, SCALE);
    if (clipped.path.verbs === '' || opacity <= 0) return;
    this.shapes.push({ id: `shape-${this.shapes.length + 1}`, ...clipped, paint, opacity });
  }

  private patternOf(args: unknown[]): Paint | null {
    if (args[0] !== 'Shading') return null;
    const own = Array.isArray(args[2]) ? (args[2] as unknown as Matrix) : IDENTITY;
    const base = this.stack[0]?.matrix ?? this.state.matrix;
    return this.shadingOf(args[1] as string, multiply(base, own));
  }

  private shadingOf(id: string, matrix: Matrix): Paint | null {
    const ir = this.find(id) as unknown[] | null;
    if (!Array.isArray(ir) || ir[0] !== 'RadialAxial') return null;
    const [, kind, , stops, p0, p1, , r1] = ir as [
      string,
      string,
      unknown,
      [number, string][],
      number[],
      number[],
      number,
      number,
    ];
    const read = stops.flatMap(([at, text]): Stop[] => {
      const colour = readColour(text);
      return colour ? [{ at, hex: colour.hex }] : [];
    });
    if (read.length < 2) return null;
    const paint: Paint =
      kind === 'axial'
        ? { kind: 'linear', geometry: { x1: p0[0], y1: p0[1], x2: p1[0], y2: p1[1] }, stops: fewer(read) }
        : { kind: 'radial', geometry: { cx: p1[0], cy: p1[1], r: r1 }, stops: fewer(read) };
    const shape = { id: '', path: { verbs: '', coords: [] }, rule: 'nonzero' as const, paint, opacity: 1 };
    return placeDrawing({ widthPx: 1, heightPx: 1, shapes: [shape] }, matrix, 1, 1).shapes[0].paint;
  }
}

const HAIRLINE_PT = 0.25;
const UNIT_BOX: Path = { verbs: 'MLLLZ', coords: [0, 0, 1, 0, 1, 1, 0, 1] };

/** Stops that lie on the way from their neighbours say nothing: shadings come with very many. */
function fewer(stops: readonly Stop[]): Stop[] {
  if (stops.length < 4) return [...stops];
  const rgb = (hex: string) => [1, 3, 5].map((k) => parseInt(hex.slice(k, k + 2), 16));
  const kept = [stops[0]];
  for (let k = 1; k + 1 < stops.length; k++) {
    const [a, b, c] = [kept[kept.length - 1], stops[k], stops[k + 1]];
    const t = (b.at - a.at) / (c.at - a.at || 1);
    const [ra, rb, rc] = [a, b, c].map((s) => rgb(s.hex));
    if (rb.some((v, i) => Math.abs(v - ra[i] - (rc[i] - ra[i]) * t) > 1.5)) kept.push(b);
  }
  return [...kept, stops[stops.length - 1]];
}

function colourOf(args: unknown[]): Paint {
  const [r, g, b] = args as [number | string, number, number];
  if (typeof r === 'string') return { kind: 'colour', hex: readColour(r)?.hex ?? '#000000' };
  const hex = [r, g, b].map((v) => Math.round(v).toString(16).padStart(2, '0'));
  return { kind: 'colour', hex: `#${hex.join('')}` };
}

interface Ring {
  readonly path: Path;
  readonly isClosed: boolean;
}

/** Rings of a page's path: 0 begins one, 1 a line, 2 a cubic, 3 a quadratic curve, 4 closes. */
function readRings(data: ArrayLike<number>): Ring[] {
  const rings: { builder: PathBuilder; isClosed: boolean }[] = [];
  let [sx, sy] = [0, 0];
  const current = () => {
    const last = rings[rings.length - 1];
    if (last && !last.isClosed) return last.builder;
    rings.push({ builder: new PathBuilder().moveTo(sx, sy), isClosed: false });
    return rings[rings.length - 1].builder;
  };
  for (let k = 0; k < data.length;) {
    const code = data[k++];
    if (code === 0) {
      [sx, sy] = [data[k], data[k + 1]];
      rings.push({ builder: new PathBuilder().moveTo(sx, sy), isClosed: false });
      k += 2;
    } else if (code === 1) {
      current().lineTo(data[k], data[k + 1]);
      k += 2;
    } else if (code === 2) {
      current().curveTo(data[k], data[k + 1], data[k + 2], data[k + 3], data[k + 4], data[k + 5]);
      k += 6;
    } else if (code === 3) {
      current().quadTo(data[k], data[k + 1], data[k + 2], data[k + 3]);
      k += 4;
    } else if (rings.length > 0) rings[rings.length - 1].isClosed = true;
  }
  return rings.map(({ builder, isClosed }) => ({ path: builder.done(), isClosed }));
}

const joined = (rings: readonly Ring[]): Path => ({
  verbs: rings.map((r) => r.path.verbs).join(''),
  coords: rings.flatMap((r) => r.path.coords),
});

/** What of a page a rectangle picks, or all of it. */
export interface Picked {
  readonly drawing: Drawing;
  /** Round what was picked, points from the page's upper left corner. */
  readonly box: RectPx;
  /** Pieces of text that stand among it and are not paths, and pictures there. */
  readonly texts: number;
  readonly pictures: number;
}

/** @returns null where nothing that is paths lies in it */
export function pickFromPage(page: PdfPage, rect: RectPx | null): Picked | null {
  const isIn = (b: RectPx) => !rect || shareInside(b, rect) >= PICKED_SHARE;
  const picked = page.shapes.filter((shape) => {
    const box = boundsOfPath(shape.path);
    return box !== null && isIn(box);
  });
  if (picked.length === 0) return null;
  const boxes = picked.map((s) => boundsOfPath(s.path) as RectPx);
  const { x, y, width, height } = boxRound(boxes);
  const meets = (b: RectPx) => b.x < x + width && b.y < y + height && b.x + b.width > x && b.y + b.height > y;
  const drawing = placeDrawing(
    { widthPx: page.widthPt, heightPx: page.heightPt, shapes: picked },
    [1, 0, 0, 1, -x, -y],
    Math.max(width, 0.01),
    Math.max(height, 0.01),
  );
  return {
    drawing,
    box: { x, y, width, height },
    texts: page.texts.filter((t) => meets(t) && isIn(t)).length,
    pictures: page.pictures.filter((p) => meets(p) && isIn(p)).length,
  };
}

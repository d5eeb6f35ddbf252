import type { Artwork } from '../core/artwork/artwork';
import { extentsOf } from '../core/artwork/extentsOf';
import { type Drawing, placeDrawing } from '../core/artwork/drawing';
import { renderDrawing } from '../core/artwork/renderDrawing';
import { type BoardCell, layOutBoard, markInCell } from '../core/board/layOutBoard';
import { type Rgb, hexFromRgb, rgbFromHex } from '../core/colour/hex';
import { markAtWidth } from '../core/contrast/placeMark';
import { type Standing, measureStanding, outlineMark } from '../core/contrast/standing';
import { paintOnPage } from '../core/formats/pdf';
import { IDENTITY } from '../core/geometry/matrix';
import { type Raster, createRaster } from '../core/raster/raster';
import { setType } from '../core/type/setType';
import { findTypeface } from '../core/type/typefaces';
import { boundsOfPath } from '../core/vector/path';
import { coverBox } from '../core/wall/drawWall';
import { encodePng } from './encodePng';
import { loadTypeface } from './loadTypeface';
import { fromRaw } from './decodePicture';

export interface BoardGround {
  readonly name: string;
  readonly value: Rgb | Raster;
}
export interface BoardVariant {
  readonly name: string;
  readonly artwork: Artwork;
}
export interface BoardPlan {
  readonly variants: readonly BoardVariant[];
  readonly grounds: readonly BoardGround[];
  readonly columns: number | null;
}

const INK = '#1c1b1d';
const WARN = '#855000';
const PAGE: Rgb = [250, 250, 250];
/** Words are cut to their cell at this share of the letters' height for a letter. */
const LETTER_SHARE = 0.52;
/** Less of the outline than this stands out: the number is a warning. */
const GOOD_SHARE = 0.75;

interface Scene {
  readonly width: number;
  readonly height: number;
  readonly cells: readonly SceneCell[];
  /** All words, as paths. */
  readonly words: Drawing;
}
interface SceneCell {
  readonly cell: BoardCell;
  /** The ground's own colour, or its pixels cut to the cell. */
  readonly ground: Rgb | Raster;
  readonly mark: Raster;
  readonly at: { readonly x: number; readonly y: number };
  /** The variant's paths where they lie on the board. */
  readonly drawing: Drawing | null;
  readonly standing: Standing;
}

function sceneOf({ variants, grounds, columns }: BoardPlan): Scene {
  const layout = layOutBoard(variants.length, grounds.length, columns);
  const cells = layout.cells.map((cell): SceneCell => {
    const { artwork } = variants[cell.variant];
    const { value } = grounds[cell.ground];
    const ground = 'data' in value ? coverBox(value, cell.box) : value;
    const extents = extentsOf(artwork) ?? { x: 0, y: 0, width: 1, height: 1 };
    const box = markInCell(cell.box, extents);
    const mark = markAtWidth(artwork, box.width);
    const at = { x: Math.round(box.x), y: Math.round(box.y) };
    const scale = mark.width / extents.width;
    const matrix = [scale, 0, 0, scale, at.x - extents.x * scale, at.y - extents.y * scale] as const;
    return {
      cell,
      ground,
      mark,
      at,
      drawing: artwork.drawing && placeDrawing(artwork.drawing, matrix, layout.width, layout.height),
      standing: measureStanding(outlineMark(mark), ground, { x: at.x - cell.box.x, y: at.y - cell.box.y }),
    };
  });
  const words = cells.flatMap(({ cell, standing }) => wordsOf(cell, standing, variants, grounds, layout.textPx));
  const { width, height } = layout;
  return { width, height, cells, words: { widthPx: width, heightPx: height, shapes: words } };
}

const font = () => loadTypeface(findTypeface('hanken').file);

function wordsOf(
  cell: BoardCell,
  { ratio, shareAbove3 }: Standing,
  variants: readonly BoardVariant[],
  grounds: readonly BoardGround[],
  sizePx: number,
) {
  const { value, name } = grounds[cell.ground];
  const number = `${ratio.toFixed(1)} : 1${'data' in value ? `, ${Math.round(shareAbove3 * 100)} %` : ''}`;
  const room = Math.floor((cell.words.width - number.length * sizePx * LETTER_SHARE) / (sizePx * LETTER_SHARE)) - 2;
  const left = cut(`${variants[cell.variant].name} on ${name}`, room);
  const isWeak = shareAbove3 < GOOD_SHARE;
  return [
    ...textShapes(left, cell.words.x, cell.words.y, sizePx, INK, 'left'),
    ...textShapes(number, cell.words.x + cell.words.width, cell.words.y, sizePx, isWeak ? WARN : INK, 'right'),
  ];
}

const cut = (text: string, most: number) => (text.length <= most ? text : `${text.slice(0, Math.max(1, most - 1))}…`);

function textShapes(text: string, x: number, y: number, sizePx: number, hex: string, align: 'left' | 'right') {
  const typeface = font();
  // A name may hold letters that the typeface lacks.
  const known = [...text].map((c) => (typeface.charToGlyph(c).index === 0 ? '?' : c)).join('');
  const path = setType([known], typeface, { sizePx, spacing: 0, lineHeight: 1, align: 'left' });
  const box = boundsOfPath(path);
  if (!box) return [];
  const dx = align === 'left' ? x - box.x : x - box.x - box.width;
  const shape = { id: 'text', path, rule: 'nonzero' as const, paint: { kind: 'colour' as const, hex }, opacity: 1 };
  return placeDrawing({ widthPx: 1, heightPx: 1, shapes: [shape] }, [1, 0, 0, 1, dx, y], 1, 1).shapes;
}

/** Variants on grounds, with names and numbers, as one picture. @returns a PNG's bytes, and what was measured */
export async function boardPng(plan: BoardPlan): Promise<{ bytes: Uint8Array; standings: Standing[] }> {
  const scene = sceneOf(plan);
  const page = createRaster(scene.width, scene.height);
  fill(page, { x: 0, y: 0, width: page.width, height: page.height }, PAGE);
  for (const { cell, ground, mark, at } of scene.cells) {
    if ('data' in ground) layOver(page, ground, cell.box);
    else fill(page, cell.box, ground);
    layOver(page, mark, at);
  }
  layOver(page, renderDrawing(scene.words, { width: page.width, height: page.height, matrix: IDENTITY }), {
    x: 0,
    y: 0,
  });
  return { bytes: await encodePng(page), standings: scene.cells.map((c) => c.standing) };
}

function fill({ width, data }: Raster, box: { x: number; y: number; width: number; height: number }, rgb: Rgb): void {
  for (let y = box.y; y < box.y + box.height; y++)
    for (let x = box.x; x < box.x + box.width; x++) data.set([...rgb, 255], (y * width + x) * 4);
}

function layOver(page: Raster, picture: Raster, at: { x: number; y: number }): void {
  for (let y = 0; y < picture.height; y++) {
    for (let x = 0; x < picture.width; x++) {
      const s = (y * picture.width + x) * 4;
      const alpha = picture.data[s + 3];
      if (alpha === 0) continue;
      const p = ((at.y + y) * page.width + at.x + x) * 4;
      for (let c = 0; c < 3; c++)
        page.data[p + c] = Math.round((picture.data[s + c] * alpha + page.data[p + c] * (255 - alpha)) / 255);
    }
  }
}

/** Points of a board's pixel: a board of usual width fits a large sheet. */
const POINTS = 0.5;

/** The same as a PDF: paths stay paths, photos and marks of pixels are embedded. */
export async function boardPdf(plan: BoardPlan): Promise<{ bytes: Uint8Array; standings: Standing[] }> {
  const scene = sceneOf(plan);
  const lib = await import('@cantoo/pdf-lib');
  const document = await lib.PDFDocument.create({ updateMetadata: false });
  const [width, height] = [scene.width * POINTS, scene.height * POINTS];
  const page = document.addPage([width, height]);
  const matrix = [POINTS, 0, 0, -POINTS, 0, height] as const;
  const rect = (x: number, y: number, w: number, h: number) => ({
    x: x * POINTS,
    y: height - (y + h) * POINTS,
    width: w * POINTS,
    height: h * POINTS,
  });
  for (const { cell, ground, mark, at, drawing } of scene.cells) {
    const { x, y, width: w, height: h } = cell.box;
    if ('data' in ground) {
      const jpeg = await fromRaw(ground).removeAlpha().jpeg({ quality: 92 }).toBuffer();
      page.drawImage(await document.embedJpg(jpeg), rect(x, y, w, h));
    } else {
      const [r, g, b] = rgbFromHex(hexFromRgb(ground)).map((v) => v / 255);
      page.drawRectangle({ ...rect(x, y, w, h), color: lib.rgb(r, g, b) });
    }
    if (drawing) paintOnPage(drawing, { lib, document, page, matrix });
    else page.drawImage(await document.embedPng(await encodePng(mark)), rect(at.x, at.y, mark.width, mark.height));
  }
  paintOnPage(scene.words, { lib, document, page, matrix });
  return { bytes: await document.save({ useObjectStreams: false }), standings: scene.cells.map((c) => c.standing) };
}

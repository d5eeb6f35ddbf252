import { createHash } from 'node:crypto';
import { CoreError, isCoreError } from '../core/errors';
import { formats } from '../core/formats';
import type { FileReceipt } from '../core/formats/receipt';
import { CSS_PPI, MM_PER_INCH, POINTS_PER_INCH } from '../core/units';
import { measurePage } from '../core/raster/measurePage';
import type { Raster } from '../core/raster/raster';
import type { PreparedFile } from '../core/recipe/makeFile';
import type { Part } from '../core/recipe/recipe';
import type { Look } from './check/look';
import { lookAt } from './check/lookAt';
import { readBackPng } from './readBackPng';
import { readBackSvg } from './readBackSvg';

/**
 * Reads a file back, by a reader that shares no code with the writer, and compares it with what was meant.
 * @param name  the file's own, for messages
 * @throws CoreError 'file/read-back' saying what differs
 */
export async function readBack(
  bytes: Uint8Array,
  { content, layout }: PreparedFile,
  format: Part,
  name: string,
): Promise<FileReceipt> {
  const fail = (what: string, cause?: unknown): never => {
    throw new CoreError('file/read-back', `${name} did not read back as written: ${what}.`, { file: name }, { cause });
  };
  const own = { bytes: bytes.length, enlargement: layout.enlargement, sha256: sha256Of(bytes) };
  if (format.id === 'png' && content.raster) return { ...ofPng(bytes, content.raster, name), ...own };
  const look = await lookAt(bytes, name).catch((error: unknown) => {
    if (!isCoreError(error)) throw error;
    return fail(error.message, error);
  });
  if (look.problems.length > 0) fail(`it ${look.problems.join(', ')}`);
  compareSize(look, content, formats.get(format.id).aroundMm?.(format.params as never) ?? 0, fail);
  if (content.raster === null) {
    if (format.id === 'svg') readBackSvg(bytes, name);
    comparePaths(look, content.drawing?.shapes.length ?? 0, fail);
  } else if (look.paths === null) comparePixels(look, content.raster, format, fail);
  return { ...receiptOf(look), ...own };
}

const sha256Of = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

type Facts = Omit<FileReceipt, 'bytes' | 'enlargement' | 'sha256'>;
type Fail = (what: string) => never;

// Every pixel was compared: what is measured of the pixels that were meant holds of the file.
function ofPng(bytes: Uint8Array, meant: Raster, name: string): Facts {
  const { width, height, hasAlpha, isInterlaced, isSrgb, chunks, ppi } = readBackPng(bytes, meant, name);
  return {
    ...{ format: 'png', width, height, unit: 'px', ppi, hasAlpha, isInterlaced, isSrgb, chunks },
    ...measurePage(meant),
    ...{ profile: isSrgb ? 'sRGB' : null, paths: null, pictures: 1, fonts: 0 },
  };
}

function receiptOf(look: Look): Facts {
  const { format, width, height, unit, ppi, hasAlpha, isInterlaced, profile, paths, pictures, fonts, pixels } = look;
  const facts = pixels && measurePage(pixels);
  const e = facts?.extents;
  const [sx, sy] = pixels ? [width / pixels.width, height / pixels.height] : [1, 1];
  return {
    ...{ format, width, height, unit, ppi, hasAlpha, isInterlaced, profile, paths, pictures, fonts },
    ...{ alphaRange: facts?.alphaRange ?? null, cornersClear: facts?.cornersClear ?? null },
    clearShare: facts && paths === null ? facts.clearShare : null,
    extents: e ? { x: e.x * sx, y: e.y * sy, width: e.width * sx, height: e.height * sy } : null,
    colours: look.fills ?? facts?.colours ?? [],
    ...{ isSrgb: profile !== null || paths !== null, chunks: [] },
  };
}

/** Sizes in mm and points are written with few digits. */
const MOST_OFF = 0.01;

function compareSize(look: Look, content: PreparedFile['content'], aroundMm: number, fail: Fail): void {
  const ppi = content.ppi ?? CSS_PPI;
  const perInch = { px: ppi, mm: MM_PER_INCH, pt: POINTS_PER_INCH }[look.unit];
  // A file that holds a size in px may tell one of style sheets, which asks for nothing to be compared but its shape.
  const isShown = look.format === 'svg' && look.unit === 'px' && content.ppi !== null;
  const scale = isShown ? CSS_PPI / ppi : 1;
  const around = (aroundMm / MM_PER_INCH) * perInch;
  const [width, height] = [content.widthPx, content.heightPx].map((px) => (px / ppi) * perInch * scale + 2 * around);
  const most = look.unit === 'px' && look.paths === null ? 1e-3 : MOST_OFF;
  if (Math.abs(look.width - width) > most || Math.abs(look.height - height) > most)
    fail(`${look.width} × ${look.height} ${look.unit} instead of ${width} × ${height}`);
}

function comparePaths(look: Look, shapes: number, fail: Fail): void {
  if (look.pictures > 0 || look.fonts > 0) fail('it holds more than paths');
  // Crop marks are lines beside the paths.
  if ((look.paths ?? 0) < shapes) fail(`it holds ${look.paths} paths instead of ${shapes}`);
}

/** Formats that keep every pixel, and by how much the others may be off on average, code values on a grey ground. */
const LOSSLESS = new Set(['webp', 'tiff', 'ico']);
const MOST_MEAN_ERROR = 2.5;
const HALF = 128;

function comparePixels({ pixels, format }: Look, meant: Raster, { params }: Part, fail: Fail): void {
  if (!pixels) return;
  const isBits = format === 'tiff' && params.depth === '1';
  if (LOSSLESS.has(format) && !isBits) {
    if (Buffer.compare(pixels.data, meant.data) === 0) return;
    const p = meant.data.findIndex((v, k) => v !== pixels.data[k]) >> 2;
    fail(`pixel ${p % meant.width}, ${Math.floor(p / meant.width)} differs`);
  }
  let sum = 0;
  for (let p = 0; p < meant.data.length; p += 4) {
    for (let c = 0; c < 3; c++) {
      const was = isBits ? (meant.data[p + c] < HALF ? 0 : 255) : onGrey(meant.data, p, c);
      sum += Math.abs(onGrey(pixels.data, p, c) - was);
    }
  }
  const mean = sum / ((meant.data.length / 4) * 3);
  if (mean > MOST_MEAN_ERROR) fail(`its pixels are off by ${mean.toFixed(1)} of 255 on average`);
}

function onGrey(data: Uint8Array, p: number, c: number): number {
  const a = data[p + 3];
  return (data[p + c] * a + HALF * (255 - a)) / 255;
}

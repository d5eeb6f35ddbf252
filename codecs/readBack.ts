import { CoreError } from '../core/errors';
import type { FileReceipt, ReadBack } from '../core/formats/receipt';
import type { PreparedFile } from '../core/recipe/makeFile';
import type { Raster } from '../core/raster/raster';
import { readBackPdf } from './readBackPdf';
import { clearShare, readBackPng } from './readBackPng';
import { readBackSvg } from './readBackSvg';
import { readBackRaster } from './readBackRaster';

/**
 * Reads a file back and compares it with what was meant.
 * @param name  the file's own, for messages
 * @throws CoreError 'file/read-back' saying what differs
 */
export async function readBack(
  bytes: Uint8Array,
  { content, layout }: PreparedFile,
  extension: string,
  name: string,
): Promise<FileReceipt> {
  const found = await readByKind(bytes, content.raster, extension, name);
  const fail = (what: string) => {
    throw new CoreError('file/read-back', `${name} did not read back as written: ${what}.`, { file: name });
  };
  const [width, height] = sizeIn(found.unit, content.widthPx, content.heightPx, content.ppi);
  const most = found.unit === 'px' ? 1e-3 : MOST_OFF;
  if (Math.abs(found.width - width) > most || Math.abs(found.height - height) > most) {
    fail(`${found.width} × ${found.height} ${found.unit} instead of ${width} × ${height}`);
  }
  if (content.raster === null) {
    if (found.pictures > 0 || found.fonts > 0) fail('it holds more than paths');
    if (found.paths !== content.drawing?.shapes.length) {
      fail(`it holds ${found.paths} paths instead of ${content.drawing?.shapes.length}`);
    }
  }
  return { ...found, enlargement: layout.enlargement };
}

/** Sizes in mm and points are written with few digits. */
const MOST_OFF = 0.01;

function sizeIn(unit: ReadBack['unit'], widthPx: number, heightPx: number, ppi: number | null): [number, number] {
  const perInch = { px: ppi ?? 1, mm: 25.4, pt: 72 }[unit];
  const pixels = unit === 'px' ? (ppi ?? 1) : (ppi ?? 96);
  return [(widthPx / pixels) * perInch, (heightPx / pixels) * perInch];
}

function readByKind(
  bytes: Uint8Array,
  meant: Raster | null,
  extension: string,
  name: string,
): Promise<ReadBack> | ReadBack {
  if (extension === 'svg') return readBackSvg(bytes, name);
  if (extension === 'pdf') return readBackPdf(bytes, name);
  if (!meant) throw new Error(`No reader for a ${extension} of paths`);
  if (extension !== 'png') return readBackRaster(bytes, meant, extension, name);
  const { width, height, hasAlpha, isInterlaced, isSrgb, chunks, ppi } = readBackPng(bytes, meant, name);
  return {
    ...{ format: 'png', width, height, unit: 'px', bytes: bytes.length, ppi, hasAlpha, isInterlaced, isSrgb, chunks },
    ...{ clearShare: clearShare(meant), paths: null, pictures: 1, fonts: 0 },
  };
}

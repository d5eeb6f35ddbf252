import { CoreError } from '../../core/errors';
import { isPdf, sniffKind } from '../sniffKind';
import { type Look, ofPixels, profileName } from './look';
import { lookAtAvif } from './lookAtAvif';
import { lookAtEps } from './lookAtEps';
import { lookAtIco } from './lookAtIco';
import { lookAtJpeg } from './lookAtJpeg';
import { lookAtPdf } from './lookAtPdf';
import { lookAtPng } from './lookAtPng';
import { lookAtSvg } from './lookAtSvg';
import { lookAtTiff } from './lookAtTiff';
import { pixelsByLibrary } from './pixelsByLibrary';
import { lookAtWebp } from './lookAtWebp';

type Reader = (bytes: Uint8Array) => Look | Promise<Look>;

const readers: Record<string, Reader> = {
  png: lookAtPng,
  jpeg: lookAtJpeg,
  tiff: lookAtTiff,
  webp: lookAtWebp,
  avif: lookAtAvif,
  ico: lookAtIco,
  svg: lookAtSvg,
  pdf: lookAtPdf,
  eps: lookAtEps,
};

/** What a file is by its first bytes, among all that are written; null for none of them. */
export function kindOfFile(bytes: Uint8Array): string | null {
  const known = sniffKind(bytes)?.id;
  if (known) return known;
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 32));
  if (head.slice(4, 8) === 'ftyp' && /avi[fs]/.test(head)) return 'avif';
  if (head.startsWith('\0\0\x01\0')) return 'ico';
  if (/^%!PS-Adobe-\d\.\d EPSF/.test(head)) return 'eps';
  return isPdf(bytes) ? 'pdf' : null;
}

/** Pictures of kinds that nobody here writes, such as GIF, as far as the one library reads them. */
async function lookAtOther(bytes: Uint8Array): Promise<Look | null> {
  const { default: sharp } = await import('sharp');
  try {
    const { format, hasAlpha, density, icc } = await sharp(bytes).metadata();
    const pixels = await pixelsByLibrary(bytes);
    const profile = icc ? profileName(icc) : null;
    return { ...ofPixels(pixels), format, ppi: density ?? null, hasAlpha, profile, problems: [] };
  } catch {
    return null;
  }
}

/**
 * Looks at a file by a reader that shares no code with our writers.
 * @throws CoreError 'intake/unsupported' for a kind that nobody here reads, 'intake/damaged' for one that does not
 *   decode; each names the file
 */
export async function lookAt(bytes: Uint8Array, name: string): Promise<Look> {
  const kind = kindOfFile(bytes);
  const other = kind ? null : await lookAtOther(bytes);
  if (other) return other;
  if (!kind) {
    const known = Object.keys(readers).join(', ').toUpperCase();
    throw new CoreError('intake/unsupported', `${name} is none of ${known}.`, { file: name });
  }
  try {
    return await readers[kind](bytes);
  } catch (cause) {
    const why = (cause as Error).message;
    throw new CoreError('intake/damaged', `${name} cannot be decoded: ${why}.`, { file: name }, { cause });
  }
}

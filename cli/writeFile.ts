import { extname } from 'node:path';
import { formatHost } from '../codecs/formatHost';
import { readBack } from '../codecs/readBack';
import type { Artwork } from '../core/artwork/artwork';
import { CoreError } from '../core/errors';
import { formats } from '../core/formats';
import { extentsOf } from '../core/artwork/extentsOf';
import { makeFile } from '../core/recipe/makeFile';
import { type Part, partOf } from '../core/recipe/recipe';
import { writeWhole } from './command';

/** How help shows the file to be written: every ending that there is. */
export const outName = `OUT.${formats.all.map((f) => f.extension).join('|')}`;

/** The format that a path's ending names. @throws CoreError 'cli/usage' naming the endings that there are */
export function formatOf(path: string): Part {
  const ending = extname(path).slice(1).toLowerCase();
  const format = formats.all.find((f) => [f.extension, ...(f.endings ?? [])].includes(ending));
  if (!format) {
    const known = formats.all.map((f) => `.${f.extension}`).join(', ');
    throw new CoreError('cli/usage', `--out ends in one of ${known}, got "${path}".`);
  }
  return partOf(formats, format.id);
}

/** Writes one file of artwork, read back before it appears under its name. @param size  null for the mark's own */
export async function writeFile(path: string, artwork: Artwork, size: Part | null): Promise<void> {
  const format = formatOf(path);
  const made = await makeFile(artwork, { size: size ?? ownSize(artwork, format), format }, formatHost);
  await readBack(made.bytes, made, format, path);
  writeWhole(path, made.bytes);
}

function ownSize(artwork: Artwork, format: Part): Part {
  const width = extentsOf(artwork)?.width ?? 1;
  const isExact = formats.get(format.id).accepts === 'paths';
  return { id: 'width', params: { widthPx: isExact ? width : Math.max(1, Math.round(width)), paddingPct: 0 } };
}

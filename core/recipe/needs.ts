import { CoreError } from '../errors';
import type { FileLayout } from '../sizes/size';

// Measured as the most that each kind of work took above what the process had before, a megapixel and more at a time
// (docs/adr/0016); the rest is room for pictures busier than any of those.

/** Bytes a pixel of the working picture while its master is made: 22 for a badge, 36 for a plane of small dots. */
const MASTER_BYTES = 45;
/** Bytes a pixel of a page while it is resized, its colours carried outwards, encoded and read back: 9 to 14. */
const PAGE_BYTES = 16;
/** Whatever the size. */
const FIXED_BYTES = 24 * 1024 * 1024;

/** Memory that making a master takes at most, bytes. @param pixels  of the working picture */
export const masterNeeds = (pixels: number): number => FIXED_BYTES + pixels * MASTER_BYTES;

/** Memory that making one file takes at most once its master is there, bytes. */
export const pageNeeds = ({ width, height }: Pick<FileLayout, 'width' | 'height'>): number =>
  FIXED_BYTES + width * height * PAGE_BYTES;

/** What all tasks of a server may take together, unless it is told otherwise: with itself, under 2 GB. */
export const TASK_MEMORY_BYTES = 1400 * 1024 * 1024;

const GB = 1024 ** 3;
/** A number of bytes as people say it. */
export const sayBytes = (bytes: number): string =>
  bytes >= 0.95 * GB ? `${(bytes / GB).toFixed(1).replace(/\.0$/, '')} GB` : `${Math.ceil(bytes / 1024 ** 2)} MB`;

/** @throws CoreError 'memory/too-little' telling how much a task needs and how much is allowed */
export function checkNeeds(
  what: string,
  needsBytes: number,
  allowedBytes: number,
  advice = 'Choose a smaller size.',
): void {
  if (needsBytes <= allowedBytes) return;
  throw new CoreError(
    'memory/too-little',
    `${what} needs about ${sayBytes(needsBytes)} of memory; ${sayBytes(allowedBytes)} are allowed here. ` + advice,
    { needsBytes, allowedBytes },
  );
}

import { CoreError } from '../errors';
import { type Path, boundsOfPath, transformPath } from '../vector/path';
import type { Drawing } from './drawing';

/**
 * A path in one colour as a drawing whose page is exactly round it, its longer side so many pixels.
 * @throws CoreError 'draw/empty' for a path that encloses nothing
 */
export function drawingOfPath(path: Path, hex: string, longPx: number): Drawing {
  const box = boundsOfPath(path);
  if (!box || box.width === 0 || box.height === 0) throw new CoreError('draw/empty', 'What was drawn leaves no trace.');
  const scale = longPx / Math.max(box.width, box.height);
  const placed = transformPath(path, [scale, 0, 0, scale, -box.x * scale, -box.y * scale]);
  const tidy = { verbs: placed.verbs, coords: placed.coords.map(asWritten) };
  return {
    widthPx: asWritten(box.width * scale),
    heightPx: asWritten(box.height * scale),
    shapes: [
      { id: 'mark', path: tidy, rule: 'nonzero', paint: { kind: 'colour', hex: hex.toLowerCase() }, opacity: 1 },
    ],
  };
}

// As fine as files hold it, so that what is written and read again is the very same drawing.
const asWritten = (v: number) => Math.round(v * WRITTEN) / WRITTEN;
const WRITTEN = 1e4;

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
  return {
    widthPx: box.width * scale,
    heightPx: box.height * scale,
    shapes: [
      { id: 'mark', path: placed, rule: 'nonzero', paint: { kind: 'colour', hex: hex.toLowerCase() }, opacity: 1 },
    ],
  };
}

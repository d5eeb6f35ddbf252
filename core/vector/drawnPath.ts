import { CoreError } from '../errors';
import { type PenOptions, type PenPoint, penOutline } from '../geometry/penStroke';

/** Outlines of all strokes of a drawing as one path. @throws CoreError 'draw/empty' when no stroke leaves a trace */
export function drawnPath(strokes: readonly (readonly PenPoint[])[], pen: PenOptions): string {
  const d = strokes.map((s) => penOutline(s, pen)).join('');
  if (d === '') throw new CoreError('draw/empty', 'Draw at least one stroke on the pad.');
  return d;
}

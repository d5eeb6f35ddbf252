import { CoreError } from '../errors';
import { type PenOptions, type PenPoint, penOutline } from './penStroke';
import { type Path, joinPaths } from './path';

/** Outlines of all strokes of a drawing as one path. @throws CoreError 'draw/empty' when no stroke leaves a trace */
export function drawnPath(strokes: readonly (readonly PenPoint[])[], pen: PenOptions): Path {
  const path = joinPaths(strokes.map((s) => penOutline(s, pen)));
  if (path.verbs === '') throw new CoreError('draw/empty', 'Draw at least one stroke on the pad.');
  return path;
}

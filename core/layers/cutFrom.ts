import type { Shape } from '../artwork/drawing';
import { refitPath } from '../trace/refitPath';
import { COARSE, differenceOf } from '../vector/polygons';

/** Shapes with another cut out of all of them, so that it leaves a gap. */
export const cutFrom = (shapes: readonly Shape[], { path, rule }: Shape): Shape[] =>
  shapes.map((below) => ({
    ...below,
    path: refitPath(differenceOf(below, [{ path, rule }], COARSE)),
    rule: 'nonzero',
  }));

import type { Fields, Values } from '../params';
import type { Raster } from '../raster/raster';

export interface SurroundDefinition<F extends Fields = Fields> {
  readonly id: string;
  readonly title: string;
  readonly params: F;
  /** The surround as part of a sentence. */
  describe(params: Values<F>): string;
  /** Pure; may return a larger picture. */
  apply(filled: Raster, params: Values<F>): Raster;
}

export const defineSurround = <F extends Fields>(d: SurroundDefinition<F>): SurroundDefinition<F> => d;

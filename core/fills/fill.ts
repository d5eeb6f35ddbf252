import type { Fields, Values } from '../params';
import type { Raster } from '../raster/raster';

export interface FillDefinition<F extends Fields = Fields> {
  readonly id: string;
  readonly title: string;
  readonly params: F;
  /** Whether it works from the master with every enclosed area open rather than from the master itself. */
  needsOpenMaster(params: Values<F>): boolean;
  /** The fill as part of a sentence, such as "in one colour, #000000". */
  describe(params: Values<F>): string;
  /** Pure: the master is not changed. */
  apply(master: Raster, params: Values<F>): Raster;
}

export const defineFill = <F extends Fields>(d: FillDefinition<F>): FillDefinition<F> => d;

import type { Fields, Values } from '../params';
import type { Decoration } from '../decoration';

export interface FillDefinition<F extends Fields = Fields> extends Decoration<F> {
  /**
   * Whether it works from the master with every enclosed area open rather than from the master itself; left out: never.
   */
  needsOpenMaster?(params: Values<F>): boolean;
}

export const defineFill = <F extends Fields>(d: FillDefinition<F>): FillDefinition => d as unknown as FillDefinition;

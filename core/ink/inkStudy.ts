import type { Rgb } from '../colour/hex';
import type { Coverage } from './coverage';
import type { LevelStudy } from './cutLevel';
import type { Ink } from './inkColour';
import type { PaperLight } from './paperLight';
import type { LineFamily } from './ruledLines';

/** All that is known of a sheet before level, pen and weight are chosen. */
export interface InkStudy {
  readonly paper: PaperLight;
  readonly ink: Ink;
  readonly families: readonly LineFamily[];
  readonly coverage: Coverage;
  /** Mean of 3 × 3. */
  readonly smooth: Float32Array;
  readonly noise: number;
  readonly raw: number;
  readonly level: LevelStudy;
  /** The paper where the light is best. */
  readonly paperRgb: Rgb;
}

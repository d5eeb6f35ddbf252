import { stageIds } from '../../../../core/stages';
import type { Bench } from '../Bench';

/** The mark after the last stage that makes it, small. */
export const lastBead = ({ engine }: Bench): ImageBitmap | null | undefined =>
  engine.beads[stageIds[stageIds.length - 1]];

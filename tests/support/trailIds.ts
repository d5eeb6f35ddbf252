import { stageIds } from '../../core/stages';

/** Every stage on a mark's trail, in order. */
export const trail = ['original', ...stageIds, 'variants', 'files'];

import { type Cluster, findClusters } from '../vector/clusters';
import { boundsOfPath } from '../vector/path';
import type { Drawing } from './drawing';

const NOWHERE = { x: 0, y: 0, width: 0, height: 0 };

/**
 * The separate pictures of a drawn sheet; members are the numbers of its shapes.
 * @param gapShare  a gap set by hand, share of the sheet's longer side
 */
export const clustersOfDrawing = ({ shapes, widthPx, heightPx }: Drawing, gapShare: number | null = null): Cluster[] =>
  findClusters(
    shapes.map((shape) => boundsOfPath(shape.path) ?? NOWHERE),
    { width: widthPx, height: heightPx },
    gapShare,
  );

import { type Cluster, findClusters } from '../vector/clusters';
import { boundsOfPath } from '../vector/path';
import type { Drawing } from './drawing';

const NOWHERE = { x: 0, y: 0, width: 0, height: 0 };

/** The separate pictures of a drawn sheet; members are the numbers of its shapes. */
export const clustersOfDrawing = ({ shapes, widthPx, heightPx }: Drawing): Cluster[] =>
  findClusters(
    shapes.map((shape) => boundsOfPath(shape.path) ?? NOWHERE),
    { width: widthPx, height: heightPx },
  );

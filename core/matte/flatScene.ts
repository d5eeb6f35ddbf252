import type { Raster } from '../raster/raster';
import type { Ground } from './measureGround';
import type { RowSegments } from './rowSegments';

/**
 * A region on its way through the flat cut-out: what every step looks at. All planes have one entry a pixel of
 * `raster`.
 */
export interface FlatScene {
  readonly raster: Raster;
  readonly ground: Ground;
  /** Code values from the ground. */
  readonly distance: Uint8Array;
  /** The same where compression's ripples are forgiven and crumbs taken away. */
  readonly calm: Uint8Array;
  /** What each pixel is; see core/kernels/interface.ts. Steps change it in place. */
  readonly labels: Int32Array;
  readonly segments: RowSegments;
  /** Up to this distance a pixel counted as ground. */
  readonly tolerance: number;
  /** What compression does beside edges, code values. */
  readonly ripple: number;
}

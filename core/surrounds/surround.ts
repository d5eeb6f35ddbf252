import type { Decoration } from '../decoration';
import type { Fields } from '../params';

/** What stands round a filled mark: a rim, a silhouette, a plate, a frame line. */
export const defineSurround = <F extends Fields>(d: Decoration<F>): Decoration => d as unknown as Decoration;

import type { Fields } from '../params';
import type { Decoration } from '../decoration';

/** A soft shadow or glow that a mark casts. */
export const defineCast = <F extends Fields>(d: Decoration<F>): Decoration => d as unknown as Decoration;

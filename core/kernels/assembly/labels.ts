/** What a pixel is, in a label plane. Anything from `FIRST_AREA` up is an enclosed area's number plus that. */
export const MARK: i32 = 0;
export const OUTSIDE: i32 = 1;
/** A shadow or glow: part of the artwork, but outside its edges. */
export const SOFT: i32 = 2;
/** The same inside an enclosed area, until it is known whether that area is open. */
export const SOFT_INSIDE: i32 = 3;
export const FIRST_AREA: i32 = 16;
/** Pixels of a row that are looked at together. */
export const SEGMENT: i32 = 32;
/** What a segment holds: nothing but ground, something of both, nothing but the mark. */
export const CLEAR: i32 = 0;
export const MIXED: i32 = 1;
export const DEEP: i32 = 2;

// The same numbers as in core/matte/spreadGround.ts and core/matte/rowSegments.ts.
export const MARK: i32 = 0;
export const OUTSIDE: i32 = 1;
export const SOFT: i32 = 2;
export const SEGMENT: i32 = 32;
export const CLEAR: i32 = 0;
export const MIXED: i32 = 1;
export const DEEP: i32 = 2;

export const MM_PER_INCH = 25.4;
export const POINTS_PER_INCH = 72;
/** Without a physical size a pixel is what style sheets take it for: 96 to the inch. */
export const CSS_PPI = 96;

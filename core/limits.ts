// How far settings of the cut-out go. Apart from the stages and findings, so that an interface knows them without
// loading what computes.

/** Code values. */
export const MOST_TOLERANCE = 96;
/** Share of full ink. */
export const LEAST_LEVEL = 0.02;
export const MOST_LEVEL = 0.9;
export const MOST_GROUNDS = 6;
/** Either way. */
export const MOST_CHOKE_PX = 5;
/** Times as much as was measured. */
export const MOST_CLEAN_UP = 2;

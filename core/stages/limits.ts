// How far settings of the cut-out go. Apart from the stages, so that an interface knows them without loading what computes.

/** Code values. */
export const MOST_TOLERANCE = 96;
/** Share of full ink. */
export const MOST_LEVEL = 0.9;
export const MOST_GROUNDS = 6;

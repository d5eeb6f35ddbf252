/** The one place that says which recipes this program writes. */
export const RECIPE_VERSION = 3;

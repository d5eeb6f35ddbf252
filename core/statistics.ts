/** Of a normal distribution: its standard deviation over the median distance from its middle. */
export const DEVIATION_OF_MEDIAN = 1.4826;

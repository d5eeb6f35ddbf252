/** One colour of a traced master. */
export interface TracedColour {
  /** As it was found; what it was set to stands in the settings. */
  readonly found: string;
  readonly hex: string;
  readonly areaPx: number;
  readonly nodes: number;
  readonly isDropped: boolean;
}

/** What the trace stage found; lengths in full-size pixels of the artwork, places in working-picture pixels. */
export interface TraceFacts {
  /** 'paths' where the artwork was paths before. */
  readonly state: 'off' | 'paths' | 'traced';
  readonly colours: readonly TracedColour[];
  readonly nodes: number;
  readonly pieces: number;
  readonly meanDeviationPx: number;
  readonly largestDeviationPx: number;
  readonly largestAt: { readonly x: number; readonly y: number } | null;
  readonly thinnestPx: number | null;
  readonly medianStrokePx: number | null;
  readonly thinnestAt: { readonly x: number; readonly y: number } | null;
  /** How many colours there are when those closer than `at` are one, for the chart. */
  readonly counts: readonly { readonly at: number; readonly count: number }[];
  readonly steady: { readonly from: number; readonly to: number };
  /** All outlines as path data, in full-size pixels of the artwork, to be laid over it. */
  readonly outlines: string;
}

export const noTrace = (state: TraceFacts['state']): TraceFacts => ({
  state,
  colours: [],
  nodes: 0,
  pieces: 0,
  meanDeviationPx: 0,
  largestDeviationPx: 0,
  largestAt: null,
  thinnestPx: null,
  medianStrokePx: null,
  thinnestAt: null,
  counts: [],
  steady: { from: 0, to: 0 },
  outlines: '',
});

import type { RectPx } from '../params';

/** One colour of a traced master. */
export interface TracedColour {
  /** As it was found; what it was set to stands in the settings. */
  readonly found: string;
  readonly hex: string;
  readonly areaPx: number;
  readonly nodes: number;
  readonly isDropped: boolean;
}

/** One piece of a traced master. */
export interface PieceOfTrace {
  /** Its colour as it was found, and as it is drawn. */
  readonly found: string;
  readonly hex: string;
  readonly isDropped: boolean;
  /** Changed by itself, not with its colour. */
  readonly isChanged: boolean;
  readonly areaPx: number;
  /** A place well inside it, working-picture pixels. */
  readonly x: number;
  readonly y: number;
  /** Full-size pixels of the artwork, as its path data. */
  readonly box: RectPx;
  readonly d: string;
  /** The colour that lies round it for the most part; null for none, and for large pieces. */
  readonly beside: string | null;
}

/** What the trace stage found; lengths in full-size pixels of the artwork, places in working-picture pixels. */
export interface TraceFacts {
  /** 'paths' where the artwork was paths before. */
  readonly state: 'off' | 'paths' | 'traced';
  readonly colours: readonly TracedColour[];
  readonly nodes: number;
  /** The first few thousand of them; of one colour the largest first. */
  readonly pieces: readonly PieceOfTrace[];
  readonly pieceCount: number;
  readonly meanDeviationPx: number;
  readonly largestDeviationPx: number;
  readonly largestAt: { readonly x: number; readonly y: number } | null;
  readonly thinnestPx: number | null;
  readonly medianStrokePx: number | null;
  readonly thinnestAt: { readonly x: number; readonly y: number } | null;
  /** How many colours there are when those closer than `at` are one, for the chart. */
  readonly counts: readonly { readonly at: number; readonly count: number }[];
  readonly steady: { readonly from: number; readonly to: number };
  /** What other tolerances would bring, from fine to coarse. */
  readonly byTolerance: readonly { readonly tolerancePx: number; readonly nodes: number; readonly meanPx: number }[];
}

export const noTrace = (state: TraceFacts['state']): TraceFacts => ({
  state,
  colours: [],
  nodes: 0,
  pieces: [],
  pieceCount: 0,
  meanDeviationPx: 0,
  largestDeviationPx: 0,
  largestAt: null,
  thinnestPx: null,
  medianStrokePx: null,
  thinnestAt: null,
  counts: [],
  steady: { from: 0, to: 0 },
  byTolerance: [],
});

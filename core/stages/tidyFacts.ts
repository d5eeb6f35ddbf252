import type { RectPx } from '../params';
import type { SpeckLimit } from '../tidy/pieces';

/**
 * What became of a piece: it stayed, went as a speck, was dropped by its place, lay outside the outlines, or was taken
 * away whole by a brush or an outline.
 */
export type Treatment = 'kept' | 'speck' | 'dropped' | 'outside' | 'erased';

/** A piece as the tidy stage lists it; places and lengths in working-picture pixels. */
export interface PieceFact {
  /** A place on the piece. */
  readonly x: number;
  readonly y: number;
  readonly areaPx: number;
  /** Greatest coverage in it, 0 to 1: below a tenth or so nobody sees it. */
  readonly peak: number;
  /** Its mean colour, by coverage; null where it has no single one to name, such as a gradient. */
  readonly colour: string | null;
  readonly box: RectPx;
  /** How far it is from the main mark. */
  readonly distancePx: number;
  readonly dropped: boolean;
  readonly treatment: Treatment;
}

/** What the tidy stage found. */
export interface TidyFacts {
  /** The largest first; at most MOST_PIECES, the smallest are left out of the list first. */
  readonly pieces: readonly PieceFact[];
  /** All of them, listed or not. */
  readonly pieceCount: number;
  readonly droppedCount: number;
  /** Pieces that outlines and brushes cleared wholly, the largest first; sought only where lists hold everything. */
  readonly gone: readonly PieceFact[];
  /** Sizes of pieces in order, smallest first, for the chart of what a limit does; of very many the smallest and the
   * largest. */
  readonly areas: readonly number[];
  readonly proposal: SpeckLimit;
  /** Of what is visible, before and after; null where nothing is. */
  readonly extents: { readonly before: RectPx | null; readonly after: RectPx | null };
  /** The same in pixels of the artwork at full size, upright with it where it was turned. */
  readonly framed: { readonly before: RectPx | null; readonly after: RectPx | null };
  /** Places of the pieces without which the extents before would be those after. */
  readonly stretchers: readonly { readonly x: number; readonly y: number }[];
}

export const MOST_PIECES = 400;
export const MOST_CHARTED = 10_000;

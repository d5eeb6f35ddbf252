import type { Question } from '../matte/settleScene';
import type { RectPx } from '../params';

/** An enclosed area as the interface and the command line list it; coordinates in working-picture pixels. */
export interface AreaFact {
  readonly number: number;
  readonly x: number;
  readonly y: number;
  readonly areaPx: number;
  readonly bounds: RectPx;
  readonly decision: 'open' | 'solid';
  readonly certainty: number;
  readonly isUnsure: boolean;
  readonly isChosen: boolean;
  /** Areas that one question is about share a group, and so do sure ones that look alike. */
  readonly group: number;
  /** What is asked about its group; null when nothing is. */
  readonly asks: Question['about'] | null;
  readonly isPale: boolean;
}

/** A signature found on a sheet; boxes in pixels of the stage's own picture at full size. */
export interface MarkFact extends RectPx {
  readonly number: number;
  /** As SVG turns: clockwise positive, so that uphill writing is negative. */
  readonly angleDeg: number;
  /** The box that holds it once it is turned upright about the box's centre. */
  readonly region: RectPx;
  /** A point that names it, working-picture pixels. */
  readonly at: { readonly x: number; readonly y: number };
  /** The colour of its own ink; of drawn pictures there is none. */
  readonly inkHex?: string;
  /** Of drawn pictures: room to their neighbours, and whether a shape behind all of them is to be left out. */
  readonly drawn?: { readonly roomPx: number; readonly isBacked: boolean };
}

export interface FlatWayFacts {
  readonly way: 'flat';
  readonly groundHex: string;
  readonly noise: number;
  readonly drift: number;
  readonly tolerance: number;
  readonly steady: { from: number; to: number; start: number };
  readonly groundLeft: readonly number[];
  readonly artworkEaten: readonly number[];
  readonly areas: readonly AreaFact[];
}

export interface PaperWayFacts {
  readonly way: 'paper';
  readonly inkHex: string;
  readonly paperHex: string;
  readonly level: number;
  readonly steady: { from: number; to: number; start: number };
  readonly levels: readonly number[];
  readonly strayPieces: readonly number[];
  readonly inkLost: readonly number[];
  readonly strokePx: number;
  readonly lineCount: number;
  readonly marks: readonly MarkFact[];
}

export interface KeepWayFacts {
  readonly way: 'keep';
}

export type CutOutFacts = FlatWayFacts | PaperWayFacts | KeepWayFacts;

export const areasOf = (facts: CutOutFacts | null | undefined): readonly AreaFact[] =>
  facts?.way === 'flat' ? facts.areas : [];
export const marksOf = (facts: CutOutFacts | null | undefined): readonly MarkFact[] =>
  facts?.way === 'paper' ? facts.marks : [];

import type { Finding } from '../core/findings/finding';
import type { Corners, Projective } from '../core/geometry/projective';
import type { RectPx } from '../core/params';
import type { Recipe } from '../core/recipe/recipe';
import type { StageValues } from '../core/stages';
import type { CutOutFacts, MarkFact } from '../core/stages/cutOutFacts';

/** Where a worker finds its picture. One worker holds one picture. */
export interface PictureSource {
  readonly key: string;
  readonly url: string;
  /** Full size over this picture's size. */
  readonly reduction: number;
}

/** A ground to measure contrast on: a colour, or a photo's address. */
export interface GroundSource {
  readonly id: string;
  readonly hex: string | null;
  readonly url: string | null;
}

export type Request =
  | { readonly type: 'open'; readonly source: PictureSource }
  | { readonly type: 'stages'; readonly values: StageValues; readonly grounds: readonly GroundSource[] }
  | { readonly type: 'matte'; readonly values: StageValues }
  | { readonly type: 'candidates'; readonly values: StageValues }
  | { readonly type: 'probe'; readonly values: StageValues; readonly x: number; readonly y: number }
  | { readonly type: 'variants'; readonly recipe: Recipe; readonly grounds: readonly GroundSource[] }
  | { readonly type: 'master'; readonly values: StageValues };

export interface Opened {
  readonly width: number;
  readonly height: number;
  readonly original: ImageBitmap;
}

/**
 * The master as it is after the last stage. The frame is what the crop lets through, in its own full-size pixels;
 * places in facts and findings are working-picture pixels.
 */
export interface StagesDone {
  /** What is visible and no more; null where nothing is. It spans `extents`. */
  readonly result: ImageBitmap | null;
  /** The original as the crop lets it through; null where that is the whole of it, upright. */
  readonly cropped: ImageBitmap | null;
  readonly frame: { readonly width: number; readonly height: number };
  /** From pixels of the frame's own picture, reduced as it is, to working-picture pixels. */
  readonly toWorking: Projective;
  /** What is visible, frame pixels. */
  readonly extents: RectPx | null;
  readonly facts: CutOutFacts;
  readonly findings: readonly Finding[];
  /** By ground id: contrast 1..21. */
  readonly contrast: Record<string, number>;
  readonly ms: number;
}

/** What the sheet holds before anything is cropped. */
export interface Candidates {
  /** The sheet put flat, where corners are set. */
  readonly sheet: ImageBitmap | null;
  readonly width: number;
  readonly height: number;
  readonly marks: readonly MarkFact[];
  /** Corners of a photographed sheet, where its edges are seen. */
  readonly corners: Corners | null;
}

/** The numbers of one pixel. */
export interface Probe {
  readonly original: string;
  /** The ground or paper under it, where one was measured. */
  readonly ground: string | null;
  /** Its own colour in the result, freed from the ground; null where nothing is visible. */
  readonly unmixed: string | null;
  readonly alpha: number;
}

export interface VariantDone {
  readonly id: string;
  /** Trimmed to what is visible; null when nothing is. */
  readonly bitmap: ImageBitmap | null;
  /** Size of the visible part, full-size pixels. */
  readonly width: number;
  readonly height: number;
  readonly contrast: Record<string, number>;
}

export interface Answers {
  open: Opened;
  stages: StagesDone;
  matte: ImageBitmap;
  candidates: Candidates;
  probe: Probe | null;
  variants: readonly VariantDone[];
  /** The master's pixels, straight alpha: for checks that screen and file agree. */
  master: { readonly width: number; readonly height: number; readonly data: Uint8Array };
}

export interface Envelope {
  readonly id: number;
  readonly request: Request;
}

export type Reply =
  | { readonly id: number; readonly ok: true; readonly value: Answers[keyof Answers] }
  | {
      readonly id: number;
      readonly ok: false;
      readonly error: { readonly code: string; readonly message: string; readonly details: Record<string, unknown> };
    };

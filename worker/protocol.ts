import type { Finding } from '../core/findings/finding';
import type { Matrix } from '../core/geometry/matrix';
import type { RectPx } from '../core/params';
import type { Recipe } from '../core/recipe/recipe';
import type { StageValues } from '../core/stages';
import type { CutOutFacts } from '../core/stages/cutOut';

/** Where a worker finds its picture. One worker holds one picture. */
export interface PictureSource {
  readonly key: string;
  readonly url: string;
  /** Full size over this picture's size. */
  readonly reduction: number;
}

/** A ground to measure contrast on: a colour, or a photo's address. */
export interface GroundSource { readonly id: string; readonly hex: string | null; readonly url: string | null }

export type Request =
  | { readonly type: 'open'; readonly source: PictureSource }
  | { readonly type: 'stages'; readonly values: StageValues; readonly grounds: readonly GroundSource[] }
  | { readonly type: 'matte'; readonly values: StageValues }
  | { readonly type: 'variants'; readonly recipe: Recipe; readonly grounds: readonly GroundSource[] }
  | { readonly type: 'master'; readonly values: StageValues };

export interface Opened { readonly width: number; readonly height: number; readonly original: ImageBitmap }

/** The master as it is after the last stage. Coordinates in working-picture pixels. */
export interface StagesDone {
  readonly result: ImageBitmap;
  readonly toWorking: Matrix;
  readonly extents: RectPx | null;
  readonly facts: CutOutFacts;
  readonly findings: readonly Finding[];
  /** By ground id: contrast 1..21. */
  readonly contrast: Record<string, number>;
  readonly ms: number;
}

export interface VariantDone {
  readonly id: string;
  /** Trimmed to what is visible; null when nothing is. */
  readonly bitmap: ImageBitmap | null;
  /** Size of the visible part, working-picture pixels. */
  readonly width: number;
  readonly height: number;
  readonly contrast: Record<string, number>;
}

export interface Answers {
  open: Opened;
  stages: StagesDone;
  matte: ImageBitmap;
  variants: readonly VariantDone[];
  /** The master's pixels, straight alpha: for checks that screen and file agree. */
  master: { readonly width: number; readonly height: number; readonly data: Uint8Array };
}

export interface Envelope { readonly id: number; readonly request: Request }

export type Reply =
  | { readonly id: number; readonly ok: true; readonly value: Answers[keyof Answers] }
  | { readonly id: number; readonly ok: false; readonly error: { readonly code: string; readonly message: string; readonly details: Record<string, unknown> } };

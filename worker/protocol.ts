import type { Standing } from '../core/contrast/standing';
import type { Finding } from '../core/findings/finding';
import type { Corners, Projective } from '../core/geometry/projective';
import type { RectPx } from '../core/params';
import type { PageFacts } from '../core/raster/measurePage';
import type { FileOrder } from '../core/recipe/fileOrder';
import type { Recipe } from '../core/recipe/recipe';
import type { StageId, StageValues } from '../core/stages';
import type { MarkWidths } from '../core/recipe/thinLines';
import type { CutOutFacts, MarkFact } from '../core/stages/cutOutFacts';

/** Where a worker finds what it works on. One worker holds one picture or drawing. */
export interface WorkSource {
  readonly key: string;
  readonly kind: 'picture' | 'drawing';
  readonly url: string;
  /** Full size over this picture's size; a drawing is rendered smaller by it. */
  readonly reduction: number;
}

/** A ground to measure contrast on: a colour, or a photo's address. */
export interface GroundSource {
  readonly id: string;
  readonly hex: string | null;
  readonly url: string | null;
}

export type Request =
  | { readonly type: 'open'; readonly source: WorkSource }
  | {
      readonly type: 'stages';
      readonly values: StageValues;
      readonly grounds: readonly GroundSource[];
      /** The stage whose output is looked at; null for the last. */
      readonly open: StageId | null;
      readonly hasBeads: boolean;
    }
  | {
      readonly type: 'matte';
      readonly values: StageValues;
      readonly open: StageId | null;
      /** What is hardly there is raised, and grown where it is too small to be seen. */
      readonly isRaised?: boolean;
    }
  /** @param gap  between pictures of a drawn sheet, share of its longer side; null where it is found */
  | { readonly type: 'candidates'; readonly values: StageValues; readonly gap: number | null }
  /** The commonest solid colour of the master beside an outline, working-picture px: x, y and so on. */
  | { readonly type: 'beside'; readonly values: StageValues; readonly points: readonly number[] }
  | { readonly type: 'probe'; readonly values: StageValues; readonly x: number; readonly y: number }
  | {
      readonly type: 'variants';
      readonly recipe: Recipe;
      readonly palette: readonly { readonly name: string; readonly hex: string }[];
      readonly grounds: readonly GroundSource[];
    }
  /** One file as it will be: a variant of the recipe, on its page. */
  | {
      readonly type: 'page';
      readonly recipe: Recipe;
      /** The variant's id. */
      readonly variant: string;
      readonly order: FileOrder;
      readonly palette: readonly { readonly name: string; readonly hex: string }[];
    }
  /** The flat colours of the master. */
  | { readonly type: 'colours'; readonly values: StageValues }
  /** How wide the master's strokes are. */
  | { readonly type: 'strokes'; readonly values: StageValues }
  | { readonly type: 'master'; readonly values: StageValues };

export interface Opened {
  readonly width: number;
  readonly height: number;
  readonly original: ImageBitmap;
}

/** Artwork as the screen shows it. The frame is what the crop lets through, in its own full-size pixels. */
export interface ArtworkShown {
  /** What is visible and no more; null where nothing is. It spans `extents`. */
  readonly bitmap: ImageBitmap | null;
  readonly frame: { readonly width: number; readonly height: number };
  /** From pixels of the frame's own picture, reduced as it is, to working-picture pixels. */
  readonly toWorking: Projective;
  /** What is visible, frame pixels: whole pixels of the picture in hand. */
  readonly extents: RectPx | null;
  /** The same as files are laid out by it: of paths to the last fraction. */
  readonly exactExtents: RectPx | null;
  readonly hasPaths: boolean;
  /** Of outlines that are kept for vector files alone; null without any. */
  readonly outlineExtents: RectPx | null;
}

/** One stage's own output: its bead, what it measured, what it found. */
export interface StageShown {
  /** Left out where it is the one that was sent last; null where nothing is visible. */
  readonly bead?: ImageBitmap | null;
  readonly findings: readonly Finding[];
  readonly facts: object;
}

/** All stages, run. Places in facts and findings are working-picture pixels. */
export interface StagesDone {
  /** After the stage that is open. */
  readonly shown: ArtworkShown;
  /** After the last one; null where that is what is shown. */
  readonly master: ArtworkShown | null;
  /** The original as the crop lets it through; null where that is the whole of it, upright. */
  readonly cropped: ImageBitmap | null;
  readonly perStage: Record<StageId, StageShown>;
  /** What the cut-out measured. */
  readonly facts: CutOutFacts;
  /** Of all stages. */
  readonly findings: readonly Finding[];
  /** Of the master, by ground id. */
  readonly contrast: Record<string, Standing>;
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
  readonly contrast: Record<string, Standing>;
  /** In one colour alone: whether the mark has light areas inside, which are left open or filled. */
  readonly hasLightInsides?: boolean;
}

/** A file's page before it is written. */
export interface PageDone {
  readonly bitmap: ImageBitmap;
  /** Of the page, px; the picture may be smaller. */
  readonly width: number;
  readonly height: number;
  /** Of the variant itself, full-size px: what sizes are measured by. */
  readonly extents: { readonly width: number; readonly height: number };
  readonly facts: PageFacts;
  /** Outlines of a file of paths. */
  readonly paths: number | null;
  /** About how many bytes the file will have. */
  readonly bytes: number;
  /** Share of the mark that goes with its key colour; null where there is none. */
  readonly keyClash: number | null;
}

export interface Answers {
  page: PageDone;
  open: Opened;
  stages: StagesDone;
  matte: ImageBitmap;
  candidates: Candidates;
  beside: string | null;
  probe: Probe | null;
  colours: readonly string[];
  strokes: MarkWidths | null;
  variants: readonly VariantDone[];
  /** The master's pixels, straight alpha: for checks that screen and file agree. */
  master: { readonly width: number; readonly height: number; readonly data: Uint8Array };
}

export interface Envelope {
  readonly id: number;
  readonly request: Request;
  /** Set to other than 0 when nobody waits any more; where the page may share memory. */
  readonly stop?: SharedArrayBuffer;
}

/** A step of long work that was begun, and how much of it is done, 0..1. */
export interface Step {
  readonly name: string;
  readonly share: number;
}

export type Reply =
  | { readonly id: number; readonly step: Step }
  | { readonly id: number; readonly ok: true; readonly value: Answers[keyof Answers] }
  | {
      readonly id: number;
      readonly ok: false;
      readonly error: { readonly code: string; readonly message: string; readonly details: Record<string, unknown> };
    };

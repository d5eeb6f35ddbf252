import type { ComponentType, ReactNode } from 'react';
import type { BrandView, MarkView } from '../../../contract/views';
import type { Recipe } from '../../../core/recipe/recipe';
import type { StageValues } from '../../../core/stages';
import type { Candidates } from '../../../worker/protocol';
import type { ProofGround } from '../../data/proofGrounds';
import type { Engine, Shown } from '../../data/useEngine';
import type { RecipeDraft } from '../../data/useRecipeDraft';
import type { Visit } from './picture/Magnifier';
import type { BenchView } from './picture/paintBench';
import type { Place } from './picture/frame';
import type { SheetActions } from './useSheetActions';
import type { Viewport } from './picture/useViewport';

/** Everything that a stage's panel and overlay may use: the mark, its recipe under the hand, and what came of it. */
export interface Bench {
  readonly mark: MarkView;
  readonly brand: BrandView;
  readonly draft: RecipeDraft;
  readonly recipe: Recipe;
  readonly values: StageValues;
  readonly engine: Engine;
  /** The newest result, at full size where that is there. */
  readonly shown: Shown | null;
  readonly grounds: readonly ProofGround[];
  /** What the whole sheet holds; asked for only by stages that want it. */
  readonly candidates: Candidates | null;
  /** The gap between pictures of a drawn sheet, share of its longer side; null where it is found. */
  readonly sheetGap: number | null;
  readonly setSheetGap: (gap: number | null) => void;
  readonly sheet: SheetActions;
  /** What the pointer does on the picture beside its usual work, named by the stage; Esc ends it. */
  readonly tool: string | null;
  readonly setTool: (tool: string | null) => void;
  readonly visit: Visit | null;
  readonly setVisit: (visit: Visit | null) => void;
  /** Shows a stage's settings without storing them, while a control moves. */
  preview<K extends keyof StageValues>(id: K, values: StageValues[K]): void;
  /** Shows and stores a stage's settings as one step of the history. */
  commit<K extends keyof StageValues>(id: K, values: StageValues[K], why: string): void;
  /** The same for settings of several stages at once. */
  commitAll(values: StageValues, why: string): void;
  readonly go: (stage: string) => void;
}

/** The picture as an overlay finds it. */
export interface PictureTools {
  readonly view: Viewport;
  /** Size of what is looked at, full-size pixels. */
  readonly frame: { readonly width: number; readonly height: number };
  readonly mode: BenchView;
  readonly shown: Shown | null;
  /** Screen x of the wipe, or null for none. */
  readonly wipeX: number | null;
  toFrame(place: Place): Place;
  toWorking(place: Place): Place;
  /** Brings a place of the result into sight: wipe and view make way. */
  reveal(place: Place): void;
}

/** A press on the picture that moved nothing. */
export interface Press {
  readonly place: Place;
  readonly original: ImageBitmap | null;
  readonly tools: PictureTools;
}

export interface BenchProps {
  readonly bench: Bench;
}

/** What lies in the middle before a stage's result: a picture and what it spans, full-size pixels. */
export interface Before {
  readonly bitmap: ImageBitmap | null;
  readonly width: number;
  readonly height: number;
}

/** A bead's picture: undefined while it is worked on, null where nothing is visible. */
export interface BeadPicture {
  readonly bitmap?: ImageBitmap | null;
  readonly ground: 'plain' | 'checker' | 'split';
  /** In place of a picture. */
  readonly count?: number;
}

/** One stage on the trail: all that the bench knows of it. */
export interface TrailStage {
  readonly id: string;
  readonly title: string;
  /** Everything under the trail, for a stage that needs it. */
  readonly Room?: ComponentType<BenchProps>;
  /** Its settings, beside the picture. */
  readonly Panel?: ComponentType<BenchProps>;
  /** What lies on the picture. */
  readonly Overlay?: ComponentType<BenchProps & { readonly tools: PictureTools }>;
  /** Its result is wiped against what was before; otherwise the picture is what was before. */
  readonly showsResult?: boolean;
  /** A tool of its own works on the result, which stays in sight. */
  readonly keepsResult?: boolean;
  readonly wantsCandidates?: boolean;
  before?(bench: Bench, isClose: boolean): Before;
  onPress?(bench: Bench, press: Press): void;
  /** What to do on the picture, while a tool is out. */
  hint?(bench: Bench): string | null;
  bead(bench: Bench): BeadPicture;
  status(bench: Bench): ReactNode;
}

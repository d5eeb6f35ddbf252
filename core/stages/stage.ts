import type { Artwork } from '../artwork/artwork';
import type { Finding } from '../findings/finding';
import type { Fields, Values } from '../params';

export interface StageContext {
  /**
   * Gets the name of each step as it begins, for timing and progress.
   * @param share  how much of a long step is done, 0..1
   */
  readonly onStep: (name: string, share?: number) => void;
  /** Nobody will look at the findings, so they need not be sought. */
  readonly pictureOnly: boolean;
  /** Lists hold everything, however much: for a report, not for a screen. */
  readonly listsAll: boolean;
  /** The input is not needed any more, so its memory may take the result. */
  readonly consumes: boolean;
  /** Nobody waits for the result any more. Long work asks between its steps, and breaks off with 'work/stopped'. */
  readonly shouldStop: () => boolean;
  /** What the cut-out began with, for stages after it; null where nothing was cut out. */
  readonly cut: CutContext | null;
}

/** Where a cut-out artwork came from. */
export interface CutContext {
  /** The artwork before anything was cut out of it, on the same grid. */
  readonly original: Artwork;
  /** The cut-out with everything of the ground's colour open. */
  readonly opened: () => Artwork;
}

export interface StageResult {
  readonly artwork: Artwork;
  readonly findings: readonly Finding[];
  /** What the stage measured; plain values. Coordinates in working-picture pixels. */
  readonly facts: object;
}

/** What becomes of paths in a stage: it works on them too, or gives back pixels only. */
export type Keeps = 'paths' | 'pixels';

export interface StageDefinition<F extends Fields = Fields, Id extends string = string, Facts extends object = object> {
  readonly id: Id;
  /** Raised when settings change their meaning; stored settings carry the version they were written for. */
  readonly version: number;
  readonly title: string;
  readonly params: F;
  readonly keeps: Keeps | ((params: Values<F>) => Keeps);
  /** `upgrades[1]` makes settings of version 2 of those of version 1. Never edited once they have served. */
  readonly upgrades?: Readonly<Record<number, (params: Record<string, unknown>) => Record<string, unknown>>>;
  /** Whether it looks at what the cut-out began with, whose memory must then not be used up. */
  needsOriginal?(params: Values<F>): boolean;
  /** The settings that leave every enclosed area open, where the stage decides about any. */
  opened?(params: Values<F>): Values<F>;
  /**
   * Pure: the input is not changed unless it may be consumed; the same input and settings give the same bytes on every
   * host.
   */
  run(input: Artwork, params: Values<F>, ctx: StageContext): StageResult & { facts: Facts };
}

export const defineStage = <const Id extends string, F extends Fields, Facts extends object>(
  d: StageDefinition<F, Id, Facts>,
): StageDefinition<F, Id, Facts> => d;

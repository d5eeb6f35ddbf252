import type { Finding } from '../findings/finding';
import type { Projective } from '../geometry/projective';
import type { Fields, RectPx, Values } from '../params';
import type { Raster } from '../raster/raster';

/** A picture on its way through the stages, and where its pixels lie in the working picture. */
export interface StagePicture {
  readonly raster: Raster;
  readonly toWorking: Projective;
  /** Pixels of this stage's picture at full size per pixel of `raster`: 1, or more for a reduced picture. */
  readonly reduction: number;
  /** Where alone anything is visible, whole pixels of `raster`, when the stage knows. */
  readonly within?: RectPx;
}

export interface StageContext {
  /** Told the name of each step as it begins, for timing and progress. */
  readonly onStep: (name: string) => void;
  /** Nobody will look at the findings, so they need not be sought. */
  readonly pictureOnly: boolean;
  /** The input is not needed any more, so its memory may take the result. */
  readonly consumes: boolean;
}

export interface StageResult {
  readonly picture: StagePicture;
  readonly findings: readonly Finding[];
  /** What the stage measured; plain values. Coordinates in working-picture pixels. */
  readonly facts: object;
}

export interface StageDefinition<F extends Fields = Fields, Id extends string = string, Facts extends object = object> {
  readonly id: Id;
  readonly version: number;
  readonly title: string;
  readonly params: F;
  /** Pure: the input is not changed unless it may be consumed; the same input and settings give the same bytes on every host. */
  run(input: StagePicture, params: Values<F>, ctx: StageContext): StageResult & { facts: Facts };
}

export const defineStage = <const Id extends string, F extends Fields, Facts extends object>(
  d: StageDefinition<F, Id, Facts>,
): StageDefinition<F, Id, Facts> => d;

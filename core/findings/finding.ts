/** A fault or risk that was measured, with its place and the way to mend it. */
export interface Finding {
  readonly id: FindingId;
  readonly stage: string;
  readonly weight: 'fault' | 'risk' | 'note';
  /** A few words, for cards and lists. */
  readonly title: string;
  /** What was measured and what to do about it. */
  readonly detail: string;
  /** Working-picture pixels, the worst first. */
  readonly places: readonly { x: number; y: number }[];
  /** Changes to the stage's settings that mend it, each one press. */
  readonly fixes?: readonly Fix[];
}

export interface Fix {
  readonly label: string;
  /** Settings of the finding's stage that take a new value. */
  readonly change: Readonly<Record<string, unknown>>;
}

export type FindingId =
  | 'unsure-areas'
  | 'source-small'
  | 'source-compressed'
  | 'touches-border'
  | 'ground-uneven'
  | 'ground-noisy'
  | 'ground-checker'
  | 'nothing-left'
  | 'fringe'
  | 'fringe-kept'
  | 'artwork-eaten'
  | 'specks'
  | 'no-flat-ground'
  | 'opaque-plate'
  | 'strokes-faint'
  | 'stray-pieces'
  | 'lines-remain'
  | 'ink-faint'
  | 'blurred'
  | 'paper-tint'
  | 'several-marks'
  | 'backing-shape'
  | 'outline-off'
  | 'paths-ended'
  | 'specks-apart';

export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

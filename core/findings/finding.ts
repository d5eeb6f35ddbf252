/** A fault or risk that was measured, with its place and the way to mend it. */
export interface Finding {
  readonly id: FindingId;
  readonly stage: string;
  readonly weight: 'fault' | 'risk' | 'note';
  /** A few words, for cards and lists. */
  readonly title: string;
  /** What was measured and what to do about it. */
  readonly detail: string;
  /** Working-picture pixels. */
  readonly places: readonly { x: number; y: number }[];
}

export type FindingId =
  | 'unsure-areas' | 'source-small' | 'touches-border' | 'ground-uneven' | 'ground-noisy' | 'nothing-left'
  | 'light-on-light' | 'enlarged' | 'already-transparent' | 'no-flat-ground' | 'looks-like-paper';

export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

export interface PurposeDefinition {
  readonly id: string;
  readonly title: string;
  /** The width that a new size line of this purpose starts with. */
  readonly widthPx: number;
  /** Clear space on each side as a share of the file's longer side, in percent. */
  readonly paddingPct: number;
  /** A square file with the mark in its middle. */
  readonly isSquare: boolean;
  readonly hint: string;
}

export const definePurpose = (d: PurposeDefinition): PurposeDefinition => d;

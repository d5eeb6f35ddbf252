/** What came of a bundle that was taken in. */
export interface BundleTaken {
  readonly kind: 'mark' | 'brand';
  readonly brandId: string;
  readonly brandName: string;
  readonly marks: readonly { readonly id: string; readonly name: string }[];
  /** Marks that start from something else here than where they were bundled: made by another version of the program. */
  readonly differ: readonly string[];
}

/** Asks, in place of a brand's id, for a brand of the bundle's own. */
export const NEW_BRAND = 'new';

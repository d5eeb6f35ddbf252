import type { Artwork } from './artwork/artwork';
import type { Fields, Values } from './params';
import type { Plane } from './raster/raster';
import type { WithParams } from './registry';

/** What a fill, a surround or a cast may ask for beside the artwork. */
export interface DecorationContext {
  /** Full-size pixels per pixel of the artwork in hand: lengths in settings are divided by it. */
  readonly reduction: number;
  /** The brand's colours. */
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** How much ink lies in each pixel of the artwork, where it came off paper. */
  readonly density: Plane | null;
}

/** The one shape of fills, surrounds and casts: a part of a variant. */
export interface Decoration<F extends Fields = Fields> extends WithParams<F> {
  /** The part as words of the variant's sentence. */
  describe(params: Values<F>): string;
  /** Pure; may give back larger artwork, and gives paths back wherever it works on them. */
  apply(artwork: Artwork, params: Values<F>, ctx: DecorationContext): Artwork;
}

import type { Artwork } from './artwork/artwork';
import type { Fields, Values } from './params';
import type { WithParams } from './registry';

/** What a fill, a surround or a cast may ask for beside the artwork. */
export interface DecorationContext {
  /** Full-size pixels per pixel of the artwork in hand: lengths in settings are divided by it. */
  readonly reduction: number;
  /** The brand's colours. */
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  /** Height of the mark itself before anything stands round it, full-size px: what lengths in % are of. */
  readonly markHeightPx: number;
  /** Full-size px of a length of 1 px in a setting, and of 1 mm. */
  readonly pxLength: number;
  readonly mmLength: number;
}

/** Without a size on paper a millimetre is as long as at 300 pixels an inch. */
export const PX_PER_MM = 300 / 25.4;

/** The one shape of fills, surrounds and casts: a part of a variant. */
export interface Decoration<F extends Fields = Fields> extends WithParams<F> {
  /** The part as words of the variant's sentence. */
  describe(params: Values<F>): string;
  /** Why a drawing ends here, as words that follow "because"; left out where paths stay paths. */
  readonly endsPaths?: string;
  /** Pure; may give back larger artwork, and gives paths back wherever it works on them. */
  apply(artwork: Artwork, params: Values<F>, ctx: DecorationContext): Artwork;
}

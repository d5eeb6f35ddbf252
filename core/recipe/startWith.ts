import { purposes } from '../purposes';
import { fills } from '../fills';
import { type Recipe, type Variant, lineOf, partOf, startLineId, variantOf } from './recipe';

/** The blue of a pen. */
const BLUE_INK = '#1f3a93';

export interface Start {
  /** The brand's own variants; null for the usual ones, and blue ink for a signature. */
  readonly startSet: readonly Variant[] | null;
  readonly pattern: string;
  readonly isSignature: boolean;
}

/**
 * A new mark's recipe with a brand's own start: its variants, with the first files of each, and its naming pattern.
 */
export function startWith(recipe: Recipe, { startSet, pattern, isSignature }: Start): Recipe {
  const files = { ...recipe.files, pattern };
  if (!startSet) {
    const blue = variantOf('blue', 'Blue ink', partOf(fills, 'oneColour', { colour: BLUE_INK }));
    return { ...recipe, variants: isSignature ? [...recipe.variants, blue] : recipe.variants, files };
  }
  // Of the size that first files of this mark have anyway.
  const [first] = recipe.files.lines;
  const web = purposes.get('web');
  const lines = startSet.map((v) => ({
    ...lineOf(startLineId(v.id, web.id), v.id, web),
    ...(first && { size: first.size }),
  }));
  return { ...recipe, variants: startSet, files: { ...files, lines } };
}

import { purposes } from '../purposes';
import { type Recipe, type Variant, lineOf, startLineId } from './recipe';

/**
 * A new mark's recipe with a brand's own start: its variants, with the first files of each, and its naming pattern.
 * @param startSet  null for the variants that the recipe has already
 */
export function startWith(recipe: Recipe, startSet: readonly Variant[] | null, pattern: string): Recipe {
  const files = { ...recipe.files, pattern };
  if (!startSet) return { ...recipe, files };
  // Of the size that first files of this mark have anyway.
  const [first] = recipe.files.lines;
  const web = purposes.get('web');
  const lines = startSet.map((v) => ({
    ...lineOf(startLineId(v.id, web.id), v.id, web),
    ...(first && { size: first.size }),
  }));
  return { ...recipe, variants: startSet, files: { ...files, lines } };
}

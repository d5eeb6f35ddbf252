import { formats } from '../core/formats';
import { purposes } from '../core/purposes';
import { nameByPattern } from '../core/recipe/fileNames';
import type { Recipe, SizeLine, Variant } from '../core/recipe/recipe';

export interface PlannedFile {
  readonly line: SizeLine;
  readonly variant: Variant;
  /** The name with its ending, once the page's size is known. */
  name(size: { width: number; height: number }): string;
}

/**
 * What a recipe's size lines come to. Lines of one variant stand together, so that its pixels are computed once.
 * @throws CoreError 'names/empty' for a pattern that gives no name
 */
export function planFiles(recipe: Recipe, names: { brand: string; mark: string }): PlannedFile[] {
  const order = new Map(recipe.variants.map((v, k) => [v.id, k]));
  const lines = [...recipe.files.lines].sort((a, b) => (order.get(a.variant) ?? 0) - (order.get(b.variant) ?? 0));
  return lines.map((line) => {
    const variant = recipe.variants[order.get(line.variant) as number];
    const purpose = purposes.get(line.purpose).title;
    const ending = formats.get(line.format.id).extension;
    const name: PlannedFile['name'] = (size) =>
      `${nameByPattern(recipe.files.pattern, { ...names, variant: variant.name, purpose, ...size })}.${ending}`;
    name({ width: 1, height: 1 });
    return { line, variant, name };
  });
}

import type { Part, Recipe, Variant } from './recipe';

/**
 * A recipe whose variants use other colours where they used some; what a fill looks for in the master itself stays.
 * @param colours  new colours by old ones, #rrggbb in small letters
 * @returns the recipe, and how many variants changed
 */
export function recolourVariants(
  recipe: Recipe,
  colours: ReadonlyMap<string, string>,
): { recipe: Recipe; changed: number } {
  let changed = 0;
  const variants = recipe.variants.map((variant): Variant => {
    const next = {
      ...variant,
      fill: recoloured(variant.fill, colours),
      surrounds: variant.surrounds.map((p) => recoloured(p, colours)),
      casts: variant.casts.map((p) => recoloured(p, colours)),
    };
    if (JSON.stringify(next) === JSON.stringify(variant)) return variant;
    changed++;
    return next;
  });
  return changed === 0 ? { recipe, changed } : { recipe: { ...recipe, variants }, changed };
}

/** What a pair looks for is a colour of the master, not one of the palette. */
const OF_MASTER = 'from';

function recoloured({ id, params }: Part, colours: ReadonlyMap<string, string>): Part {
  const visit = (value: unknown, key: string): unknown => {
    if (typeof value === 'string') return (key !== OF_MASTER && colours.get(value.toLowerCase())) || value;
    if (Array.isArray(value)) return value.map((v) => visit(v, key));
    if (typeof value === 'object' && value !== null)
      return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, visit(v, k)]));
    return value;
  };
  return { id, params: visit(params, '') as Part['params'] };
}

/** Which colours of a palette became others under the same name. */
export function changedColours(
  before: readonly { readonly name: string; readonly hex: string }[],
  after: readonly { readonly name: string; readonly hex: string }[],
): Map<string, string> {
  const changed = new Map<string, string>();
  for (const { name, hex } of before) {
    const now = after.find((c) => c.name === name);
    if (now && now.hex.toLowerCase() !== hex.toLowerCase()) changed.set(hex.toLowerCase(), now.hex.toLowerCase());
  }
  return changed;
}

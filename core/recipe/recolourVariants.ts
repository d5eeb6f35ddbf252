import type { StopValue } from '../params';
import type { Part, Recipe, Variant } from './recipe';

/** What became something else under the same name. */
export interface PaletteChanges {
  /** New colours by old ones, #rrggbb in small letters. */
  readonly colours: ReadonlyMap<string, string>;
  /** New stops by old ones, as `keyOfStops` writes them. */
  readonly gradients: ReadonlyMap<string, readonly StopValue[]>;
}

/**
 * A recipe whose variants use other colours where they used some; what a fill looks for in the master itself stays.
 * @returns the recipe, and how many variants changed
 */
export function recolourVariants(recipe: Recipe, changes: PaletteChanges): { recipe: Recipe; changed: number } {
  let changed = 0;
  const variants = recipe.variants.map((variant): Variant => {
    const next = {
      ...variant,
      fill: recoloured(variant.fill, changes),
      surrounds: variant.surrounds.map((p) => recoloured(p, changes)),
      casts: variant.casts.map((p) => recoloured(p, changes)),
    };
    if (JSON.stringify(next) === JSON.stringify(variant)) return variant;
    changed++;
    return next;
  });
  return changed === 0 ? { recipe, changed } : { recipe: { ...recipe, variants }, changed };
}

/** What a pair looks for is a colour of the master, not one of the palette. */
const OF_MASTER = 'from';

function recoloured({ id, params }: Part, { colours, gradients }: PaletteChanges): Part {
  const visit = (value: unknown, key: string): unknown => {
    if (typeof value === 'string') return (key !== OF_MASTER && colours.get(value.toLowerCase())) || value;
    if (key === 'stops' && Array.isArray(value)) {
      const stops = gradients.get(keyOfStops(value as StopValue[]));
      if (stops) return stops.map((stop) => ({ ...stop }));
    }
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

/** The same of gradients. */
export function changedGradients(
  before: readonly { readonly name: string; readonly stops: readonly StopValue[] }[],
  after: readonly { readonly name: string; readonly stops: readonly StopValue[] }[],
): Map<string, readonly StopValue[]> {
  const changed = new Map<string, readonly StopValue[]>();
  for (const { name, stops } of before) {
    const now = after.find((g) => g.name === name);
    if (now && keyOfStops(now.stops) !== keyOfStops(stops)) changed.set(keyOfStops(stops), now.stops);
  }
  return changed;
}

const keyOfStops = (stops: readonly StopValue[]) =>
  JSON.stringify(stops.map(({ at, colour }) => [at, colour.toLowerCase()]));

/** Stops of a gradient of a palette of which some colours became others. */
export const withColours = (stops: readonly StopValue[], colours: ReadonlyMap<string, string>): StopValue[] =>
  stops.map((s) => ({ ...s, colour: colours.get(s.colour.toLowerCase()) ?? s.colour }));

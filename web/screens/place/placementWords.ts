import type { LookView, MarkCard, SeenView } from '../../../contract/views';
import { type Length, lengthText } from '../../../core/placements/lengths';
import type { Place } from '../../../core/placements/placement';
import { type Item, type MarkItem, isStrip } from '../../../core/placements/readPlacement';
import type { Variant } from '../../../core/recipe/recipe';

export const placeWords = (at: Place['at']): string =>
  typeof at === 'object' ? `at ${Math.round(at.x)}, ${Math.round(at.y)} px` : at.replace('-', ' ');

export const lengthWords = (length: Length): string =>
  lengthText(length)
    .replace('%', ' %')
    .replace(/(px|mm)$/, ' $1');

/** The variants that an item may be, such as "reversed or black, whichever reads better". */
export function variantWords({ variant }: MarkItem, variants: readonly Variant[]): string {
  if (variant === 'auto') return 'whichever variant reads best';
  const names = (typeof variant === 'string' ? [variant] : variant).map(
    (id) => variants.find((v) => v.id === id)?.name.toLowerCase() ?? 'a variant that was removed',
  );
  if (names.length === 1) return names[0];
  return `${names.slice(0, -1).join(', ')} or ${names.at(-1)}, whichever reads better`;
}

/** A placement's name by a pattern of `{mark}`, `{variant}`, `{corner}`, `{size}` and `{opacity}`. */
export function placementName(pattern: string, item: Item | undefined, marks: readonly MarkCard[]): string {
  if (!item || isStrip(item)) return 'Placement';
  const { variant } = item;
  const words = {
    mark: marks.find((m) => m.id === item.mark)?.name ?? 'Mark',
    variant: variant === 'auto' ? 'best variant' : typeof variant === 'string' ? variant : variant.join(' or '),
    corner: placeWords(item.at),
    size: lengthWords(item.size),
    opacity: `${Math.round(item.opacity * 100)} %`,
  };
  return pattern.replace(/\{(\w+)\}/g, (whole, token: string) => words[token as keyof typeof words] ?? whole);
}
export const USUAL_NAME = '{mark}, {corner}, {opacity}';

/** A name that nobody has yet: a number after it where somebody does. */
export function freeName(name: string, taken: readonly string[]): string {
  for (let k = 1; ; k++) {
    const next = k === 1 ? name : `${name} ${k}`;
    if (!taken.includes(next)) return next;
  }
}

/** Whether a placement still has the name that its rule gave it, perhaps with a number after it. */
export function isNamedByRule(name: string, items: readonly Item[], marks: readonly MarkCard[]): boolean {
  const own = placementName(USUAL_NAME, items[0], marks);
  return name === own || (name.startsWith(`${own} `) && /^\d+$/.test(name.slice(own.length + 1)));
}

/** Less of an outline than this stands out: the mark is hard to make out. */
const GOOD_SHARE = 0.75;
export const isWeak = (seen: SeenView | null): boolean => seen !== null && seen.shareAbove3 < GOOD_SHARE;
export const weakIn = (look: LookView | undefined): boolean => look?.items.some((i) => isWeak(i.seen)) ?? false;

export const ratioWords = ({ ratio }: SeenView): string => `${ratio.toFixed(1)} : 1`;

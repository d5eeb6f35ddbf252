import type { Extent } from '../sizes/size';
import type { Length } from './lengths';
import type { Item, MarkItem } from './readPlacement';
import { isStrip } from './readPlacement';

/** The items of a placement with what differs on one ground, by their numbers. */
export function itemsWith(items: readonly Item[], change: Readonly<Record<string, Partial<MarkItem>>> | null): Item[] {
  return items.map((item, k) => (isStrip(item) ? item : { ...item, ...(change?.[String(k)] ?? {}) }));
}

/** The variants that were looked at in place of those that are chosen anew on every ground, by the items' numbers. */
export function itemsAsSeen(items: readonly Item[], seen: readonly (string | null)[] | null): Item[] {
  return items.map((item, k) => (isStrip(item) || !seen?.[k] ? item : { ...item, variant: seen[k] as string }));
}

const scaled = (length: Length, scale: number): Length =>
  length.unit === 'pct' ? length : { ...length, value: length.value * scale };

/** An item for a ground that is shown smaller. @param scale  its pixels per pixel of the ground itself */
export const scaleItem = (item: MarkItem, scale: number): MarkItem => ({
  ...item,
  at: typeof item.at === 'object' ? { x: item.at.x * scale, y: item.at.y * scale } : item.at,
  inset: scaled(item.inset, scale),
  size: scaled(item.size, scale),
});

/** The same for a whole placement. */
export const scaleItems = (items: readonly Item[], scale: number): Item[] =>
  items.map((item) =>
    isStrip(item)
      ? { ...item, strip: { ...item.strip, heightPx: Math.max(1, Math.round(item.strip.heightPx * scale)) } }
      : scaleItem(item, scale),
  );

/** How much smaller a ground is looked at. */
export const lookScale = ({ width, height }: Extent, mostPixels: number): number =>
  Math.min(1, Math.sqrt(mostPixels / (width * height)));

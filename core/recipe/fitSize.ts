import { sizes } from '../sizes';
import { type Extent, LEAST_SIDE_PX, wholePixels } from '../sizes/size';
import type { Part } from './recipe';

/** Settings of sizes that count pixels of the file. */
export const COUNTS_PIXELS = /^px$|Px$/;

/** A part with some of its numbers changed. */
export const withNumbers = (part: Part, isMeant: (name: string) => boolean, change: (v: number) => number): Part => ({
  ...part,
  params: Object.fromEntries(
    Object.entries(part.params).map(([name, v]) => [name, typeof v === 'number' && isMeant(name) ? change(v) : v]),
  ),
});

/** A size made smaller until a mark of so many pixels is not enlarged by it; the same where it is not. */
export function fitSize(size: Part, mark: Extent): Part {
  const definition = sizes.get(size.id);
  // A frame is as large as its receiver asks: the mark in it gives way.
  const isFrame = size.id === 'frame';
  const names = Object.keys(size.params).filter((name) => (isFrame ? name === 'markPct' : COUNTS_PIXELS.test(name)));
  const least = isFrame ? 1 : LEAST_SIDE_PX;
  const counts = (name: string) => names.includes(name);
  const times = (share: number) => withNumbers(size, counts, (v) => Math.max(least, Math.floor(v * share)));
  const enlargement = (part: Part) => definition.layOut(mark, part.params as never, wholePixels).enlargement;
  const found = enlargement(size);
  if (found <= 1 || names.length === 0) return size;
  // Rounding may leave a fraction of a pixel too much.
  let fitted = times(1 / found);
  for (let share = 1 / found; enlargement(fitted) > 1 && share > 0.01; share *= 0.99) fitted = times(share);
  return fitted;
}

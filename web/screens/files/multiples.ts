import type { SizeLine } from '../../../core/recipe/recipe';

/** Settings of sizes that count pixels of the file. */
const COUNTS_PIXELS = /^px$|Px$/;
const TIMES = [2, 3];

/** A line at two and three times its pixels, for screens of so many to a point; on paper the resolution grows. */
export function multiplesOf({ name, ...line }: SizeLine, idOf: (k: number) => string): SizeLine[] {
  return TIMES.map((times, k) => {
    const params = Object.entries(line.size.params).map(([setting, v]) => {
      const counts = COUNTS_PIXELS.test(setting) || setting === 'ppi';
      return [setting, counts && typeof v === 'number' ? v * times : v];
    });
    const own = name === undefined ? {} : { name: name.replace(/(\.\w+)?$/, `@${times}x$1`) };
    return { ...line, ...own, id: idOf(k), size: { ...line.size, params: Object.fromEntries(params) } };
  });
}

import { COUNTS_PIXELS, withNumbers } from '../../../core/recipe/fitSize';
import { type SizeLine, typedLine } from '../../../core/recipe/recipe';

const TIMES = [2, 3];

/** A line at two and three times its pixels, for screens of so many to a point; on paper the resolution grows. */
export function multiplesOf(given: SizeLine, idOf: (k: number) => string): SizeLine[] {
  const { name, ...line } = typedLine(given);
  return TIMES.map((times, k) => {
    const size = withNumbers(
      line.size,
      (setting) => COUNTS_PIXELS.test(setting) || setting === 'ppi',
      (v) => v * times,
    );
    const own = name === undefined ? {} : { name: name.replace(/(\.\w+)?$/, `@${times}x$1`) };
    return { ...line, ...own, id: idOf(k), size };
  });
}

/** A repeatable stream of numbers in [0, 1). @see G. Marsaglia, "Xorshift RNGs", 2003 (mulberry-style finish) */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Roughly normal numbers with mean 0 and deviation 1 (sum of twelve). */
export const normalFrom = (random: () => number) => (): number => {
  let sum = -6;
  for (let k = 0; k < 12; k++) sum += random();
  return sum;
};

import type { StageResult } from '../stages/stage';

/** Keeps stage outputs by the key of what went in. Hosts decide how much to hold. */
export interface StageCache {
  get(key: string): StageResult | undefined;
  set(key: string, result: StageResult): void;
  /** Bytes of all pictures held, and of the planes of ink beside them. */
  readonly bytes: number;
}

/**
 * Room for the outputs of seven stages on eight megapixels, and for going back and forth between two settings of the
 * last.
 */
export const USUAL_CACHE_BYTES = 320 * 1024 * 1024;

/**
 * A cache of the newest outputs, as many as fit. A picture that a stage hands on as it came counts once. The newest
 * output is kept however large it is: the next stage is about to ask for it.
 */
export function createStageCache(mostBytes = USUAL_CACHE_BYTES): StageCache {
  const held = new Map<string, StageResult>();
  const countBytes = () => {
    const planes = [...held.values()].flatMap(({ artwork: { raster, ink } }) => [
      raster.data,
      ...(ink ? [ink.coverage, ink.density] : []),
    ]);
    return [...new Set(planes)].reduce((sum, data) => sum + data.byteLength, 0);
  };
  return {
    get(key) {
      const found = held.get(key);
      if (found) {
        held.delete(key);
        held.set(key, found);
      }
      return found;
    },
    set(key, result) {
      held.delete(key);
      held.set(key, result);
      while (held.size > 1 && countBytes() > mostBytes) held.delete(held.keys().next().value as string);
    },
    get bytes() {
      return countBytes();
    },
  };
}

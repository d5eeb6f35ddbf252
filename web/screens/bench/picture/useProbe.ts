import { useEffect, useRef, useState } from 'react';
import type { StageValues } from '../../../../core/stages';
import type { Probe } from '../../../../worker/protocol';
import type { Engine } from '../../../data/useEngine';
import type { Place } from './frame';

const REST_MS = 70;

/** The numbers of the pixel under the pointer once it rests; null where there is none. */
export function useProbe(engine: Engine, values: StageValues, at: Place | null): Probe | null {
  const [found, setFound] = useState<Probe | null>(null);
  const { fast } = engine;
  const newest = useRef(values);
  newest.current = values;
  const [x, y] = [at?.x, at?.y];
  useEffect(() => {
    if (!fast || x === undefined || y === undefined) {
      setFound(null);
      return;
    }
    let isGone = false;
    const timer = setTimeout(() => {
      fast
        .askLatest({ type: 'probe', values: newest.current, x, y })
        .then((probe) => !isGone && setFound(probe))
        .catch(() => {});
    }, REST_MS);
    return () => {
      isGone = true;
      clearTimeout(timer);
    };
  }, [fast, x, y]);
  return at ? found : null;
}

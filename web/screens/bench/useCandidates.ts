import { useEffect, useState } from 'react';
import type { StageValues } from '../../../core/stages';
import type { Candidates } from '../../../worker/protocol';
import type { Engine } from '../../data/useEngine';

/** What the whole sheet holds, asked for only while the crop is looked at. */
export function useCandidates(
  engine: Engine,
  values: StageValues,
  isWanted: boolean,
  gap: number | null,
): Candidates | null {
  const [found, setFound] = useState<Candidates | null>(null);
  const { fast, quick } = engine;
  // Where one crops changes nothing about the sheet.
  const key = JSON.stringify([values.crop.corners, { ...values.cutOut, mark: null }]);
  const isReady = quick !== null || engine.problem !== null;
  useEffect(() => {
    if (!isWanted || !fast || !isReady) return;
    let isGone = false;
    fast
      .askLatest({ type: 'candidates', values, gap })
      .then((done) => done && !isGone && setFound(done))
      .catch(() => {});
    return () => {
      isGone = true;
    };
  }, [isWanted, fast, isReady, key, gap]);
  return isWanted ? found : null;
}

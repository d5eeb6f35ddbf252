import { useEffect, useState } from 'react';
import { type StageId, type StageValues, stageIds } from '../../../../core/stages';
import type { Engine } from '../../../data/useEngine';

/** The matte of the present result, asked for only while it is looked at. @param open  the stage that is looked at */
export function useMatte(engine: Engine, values: StageValues, open: string, isWanted: boolean): ImageBitmap | null {
  const [matte, setMatte] = useState<ImageBitmap | null>(null);
  const { fast, quick } = engine;
  const stage = (stageIds as readonly string[]).includes(open) ? (open as StageId) : null;
  useEffect(() => {
    if (!isWanted || !fast || !quick) return;
    let isGone = false;
    fast
      .askLatest({ type: 'matte', values, open: stage })
      .then((bitmap) => bitmap && !isGone && setMatte(bitmap))
      .catch(() => {});
    return () => {
      isGone = true;
    };
  }, [isWanted, fast, quick, values, stage]);
  return isWanted ? matte : null;
}

import { useEffect, useState } from 'react';
import type { StageValues } from '../../../../core/stages';
import type { Engine } from '../useEngine';

/** The matte of the present result, asked for only while it is looked at. */
export function useMatte(engine: Engine, values: StageValues, isWanted: boolean): ImageBitmap | null {
  const [matte, setMatte] = useState<ImageBitmap | null>(null);
  const { fast, quick } = engine;
  useEffect(() => {
    if (!isWanted || !fast || !quick) return;
    let isGone = false;
    fast
      .askLatest({ type: 'matte', values })
      .then((bitmap) => bitmap && !isGone && setMatte(bitmap))
      .catch(() => {});
    return () => {
      isGone = true;
    };
  }, [isWanted, fast, quick, values]);
  return isWanted ? matte : null;
}

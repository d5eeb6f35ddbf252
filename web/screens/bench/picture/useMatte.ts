import { useEffect, useState } from 'react';
import { type StageId, type StageValues, stageIds } from '../../../../core/stages';
import type { Engine } from '../../../data/useEngine';

/**
 * The matte of the present result, asked for only while it is looked at.
 * @param open  the stage that is looked at
 * @param wanted  'raised' shows what is hardly there, from the picture at full size where that is at hand
 */
export function useMatte(
  engine: Engine,
  values: StageValues,
  open: string,
  wanted: 'plain' | 'raised' | null,
): ImageBitmap | null {
  const [matte, setMatte] = useState<{ way: typeof wanted; bitmap: ImageBitmap } | null>(null);
  const { quick } = engine;
  const client = (wanted === 'raised' && engine.whole) || engine.fast;
  const stage = (stageIds as readonly string[]).includes(open) ? (open as StageId) : null;
  useEffect(() => {
    if (!wanted || !client || !quick) return;
    let isGone = false;
    client
      .askLatest({ type: 'matte', values, open: stage, isRaised: wanted === 'raised' })
      .then((bitmap) => bitmap && !isGone && setMatte({ way: wanted, bitmap }))
      .catch(() => {});
    return () => {
      isGone = true;
    };
  }, [wanted, client, quick, values, stage]);
  // The other kind's would be a wrong picture for a moment.
  return matte && matte.way === wanted ? matte.bitmap : null;
}

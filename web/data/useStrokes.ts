import { useEffect, useState } from 'react';
import type { StageValues } from '../../core/stages';
import type { MarkWidths } from '../../core/recipe/thinLines';
import type { CoreClient } from '../../worker/client';

/** Stroke widths of the master, measured once for these settings at the size in hand; null until they are known. */
export function useStrokes(client: CoreClient | null, values: StageValues): MarkWidths | null {
  const [known, setKnown] = useState<{ values: StageValues; strokes: MarkWidths | null } | null>(null);
  useEffect(() => {
    let isGone = false;
    client
      ?.ask({ type: 'strokes', values })
      .then((strokes) => !isGone && setKnown({ values, strokes }))
      .catch(() => {});
    return () => {
      isGone = true;
    };
  }, [client, values]);
  return known?.values === values ? known.strokes : null;
}

import { useEffect, useRef, useState } from 'react';
import { ordersOf } from '../../../core/recipe/fileOrder';
import type { Recipe } from '../../../core/recipe/recipe';
import type { CoreClient } from '../../../worker/client';
import type { PageDone } from '../../../worker/protocol';
import type { PlannedLine } from './planLines';

/** What is known of a file's page; its picture of the chosen one alone. */
export interface PageKnown extends Omit<PageDone, 'bitmap'> {
  readonly bitmap: ImageBitmap | null;
}

type Palette = readonly { readonly name: string; readonly hex: string }[];

/** Every line's page as it will be, the chosen one first, with its picture; undefined before it is known. */
export function usePages(
  client: CoreClient | null,
  recipe: Recipe,
  planned: readonly PlannedLine[],
  chosen: string | null,
  palette: Palette,
): ReadonlyMap<string, PageKnown> {
  const [pages, setPages] = useState<ReadonlyMap<string, PageKnown>>(new Map());
  const known = useRef(new Map<string, PageKnown>());
  useEffect(() => {
    if (!client) return;
    let isGone = false;
    const good = planned.filter((p) => p.problem === null);
    const order = [...good.filter((p) => p.line.id === chosen), ...good.filter((p) => p.line.id !== chosen)];
    const keyOf = ({ line }: PlannedLine) => {
      const variant = recipe.variants.find((v) => v.id === line.variant);
      return JSON.stringify([recipe.stages, variant, { ...line, id: '', name: '' }, palette]);
    };
    const show = () => {
      const found = order.flatMap((p) => {
        const page = known.current.get(keyOf(p));
        return page ? [[p.line.id, page] as const] : [];
      });
      setPages(new Map(found));
    };
    void (async () => {
      for (const one of order) {
        const key = keyOf(one);
        const isChosen = one.line.id === chosen;
        const before = known.current.get(key);
        if (before && (before.bitmap || !isChosen)) continue;
        const request = { recipe, variant: one.line.variant, order: ordersOf(one.line)[0], palette };
        const page = await client.ask({ type: 'page', ...request }).catch(() => null);
        if (!page) continue;
        if (isGone) return page.bitmap.close();
        if (isChosen) {
          // One picture at a time is enough.
          for (const [k, p] of known.current) {
            p.bitmap?.close();
            known.current.set(k, { ...p, bitmap: null });
          }
        } else page.bitmap.close();
        known.current.set(key, isChosen ? page : { ...page, bitmap: null });
        show();
      }
    })();
    show();
    return () => {
      isGone = true;
    };
  }, [client, recipe, planned, chosen, palette]);
  return pages;
}

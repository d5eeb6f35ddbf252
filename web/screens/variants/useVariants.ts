import { useEffect, useRef, useState } from 'react';
import type { Recipe } from '../../../core/recipe/recipe';
import type { CoreClient } from '../../../worker/client';
import type { VariantDone } from '../../../worker/protocol';
import { wordsFor } from '../../messages';
import type { ProofGround } from '../../data/proofGrounds';
import type { Engine } from '../../data/useEngine';

export interface ShownVariants {
  readonly shown: ReadonlyMap<string, VariantDone>;
  /** Pictures and figures are those of the full size and of the newest settings. */
  readonly isSettled: boolean;
  readonly problem: string | null;
}

/**
 * Every variant of the recipe as a picture, kept up to date: from the reduced artwork at once, then from the whole, as
 * files are.
 */
export function useVariants(
  engine: Engine,
  recipe: Recipe,
  grounds: readonly ProofGround[],
  palette: readonly { readonly name: string; readonly hex: string }[],
): ShownVariants {
  const [shown, setShown] = useState<ReadonlyMap<string, VariantDone>>(new Map());
  const [settled, setSettled] = useState<readonly unknown[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const { fast, whole } = engine;
  const asked = useRef<unknown>(null);
  const { stages, variants } = recipe;
  // What pictures and figures depend on; sizes and names of files change nothing.
  const made = [stages, variants, palette, grounds];
  useEffect(() => {
    const own = (asked.current = {});
    const isGone = () => asked.current !== own;
    const draw = async (client: CoreClient, isWhole: boolean) => {
      const list = await client.askLatest({ type: 'variants', recipe, palette, grounds });
      if (!list || isGone()) return;
      setShown(new Map(list.map((v) => [v.id, v])));
      setProblem(null);
      if (isWhole) setSettled(made);
    };
    void (async () => {
      if (fast && fast !== whole) await draw(fast, false);
      if (whole && !isGone()) await draw(whole, true);
    })().catch((error: unknown) => !isGone() && setProblem(wordsFor(error)));
    return () => {
      asked.current = null;
    };
  }, [fast, whole, ...made]);
  return { shown, isSettled: made.every((part, k) => part === settled[k]), problem };
}

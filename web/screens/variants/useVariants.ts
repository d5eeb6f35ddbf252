import { useEffect, useState } from 'react';
import type { Recipe } from '../../../core/recipe/recipe';
import type { VariantDone } from '../../../worker/protocol';
import { wordsFor } from '../../messages';
import type { ProofGround } from '../../data/proofGrounds';
import type { Engine } from '../../data/useEngine';

/** Every variant of the recipe as a picture, kept up to date. */
export function useVariants(
  engine: Engine,
  recipe: Recipe,
  grounds: readonly ProofGround[],
  palette: readonly { readonly name: string; readonly hex: string }[],
): { shown: ReadonlyMap<string, VariantDone>; problem: string | null } {
  const [shown, setShown] = useState<ReadonlyMap<string, VariantDone>>(new Map());
  const [problem, setProblem] = useState<string | null>(null);
  const { fast } = engine;
  useEffect(() => {
    if (!fast) return;
    let isGone = false;
    fast
      .askLatest({ type: 'variants', recipe, palette, grounds })
      .then((list) => {
        if (!list || isGone) return;
        setShown(new Map(list.map((v) => [v.id, v])));
        setProblem(null);
      })
      .catch((error: unknown) => !isGone && setProblem(wordsFor(error)));
    return () => {
      isGone = true;
    };
  }, [fast, recipe, grounds, palette]);
  return { shown, problem };
}

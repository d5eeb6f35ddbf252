import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { paths } from '../../../contract/paths';
import type { DeliveryView, MarkCard, MarkView } from '../../../contract/views';
import type { Recipe } from '../../../core/recipe/recipe';
import { type StandardLine, linesByStandard } from '../../../core/recipe/standardLines';
import { send } from '../../data/http';
import { wordsFor } from '../../messages';

/** What is done to each of several marks, one after another. */
export type BulkAction =
  | { readonly kind: 'state'; readonly state: MarkCard['state'] }
  | { readonly kind: 'kind'; readonly to: MarkCard['kind'] }
  | { readonly kind: 'brand'; readonly to: string }
  | { readonly kind: 'files' }
  /** The brand's standard lines, for the variants that each has. */
  | { readonly kind: 'standard'; readonly lines: readonly StandardLine[] }
  | { readonly kind: 'remove' }
  /** The settings of another mark: its stages but for what was said of places, its variants and its size lines. */
  | { readonly kind: 'recipe'; readonly from: string }
  /** Its variants alone, and the lines that make files of them. */
  | { readonly kind: 'variants'; readonly from: string };

export interface BulkResult {
  readonly name: string;
  /** What went wrong, or null. */
  readonly problem: string | null;
}

export interface Bulk {
  readonly progress: { readonly done: number; readonly of: number } | null;
  readonly results: readonly BulkResult[];
  run(marks: readonly MarkCard[], action: BulkAction): Promise<void>;
  clear(): void;
}

/** Settings that name places in a picture mean nothing in another one. */
export function withoutPlaces(recipe: Recipe, own: Recipe): Recipe {
  const { cutOut, tidy } = recipe.stages;
  return {
    ...recipe,
    stages: {
      ...recipe.stages,
      crop: own.stages.crop,
      cutOut: { ...cutOut, areas: own.stages.cutOut.areas, mark: own.stages.cutOut.mark },
      tidy: { ...own.stages.tidy, specksBelow: tidy.specksBelow },
      trace: { ...recipe.stages.trace, pieces: own.stages.trace.pieces },
    },
  };
}

/** A recipe with another's variants; lines of variants that are gone become those of the first. */
export function withVariants(own: Recipe, { variants }: Pick<Recipe, 'variants'>): Recipe {
  const known = new Set(variants.map((v) => v.id));
  const lines = own.files.lines.map((l) => (known.has(l.variant) ? l : { ...l, variant: variants[0].id }));
  return { ...own, variants, files: { ...own.files, lines } };
}

const askForAll = ([first, ...rest]: readonly MarkCard[]): Promise<boolean> => {
  const marks = [first, ...rest].map((m) => ({ id: m.id, basedOn: m.revision }));
  return send<DeliveryView>('POST', paths.brandDeliveries(first.brandId), { marks }).then(
    () => true,
    () => false,
  );
};

/** Does the same to many marks; one that cannot be done does not disturb the others. */
export function useBulk(): Bulk {
  const queries = useQueryClient();
  const [progress, setProgress] = useState<Bulk['progress']>(null);
  const [results, setResults] = useState<readonly BulkResult[]>([]);

  async function doOne(card: MarkCard, action: BulkAction, source: Recipe | null): Promise<void> {
    const change = (body: object) => send<MarkView>('PATCH', paths.mark(card.id), { basedOn: card.details, ...body });
    switch (action.kind) {
      case 'state':
        await change({ state: action.state });
        break;
      case 'kind':
        await change({ kind: action.to });
        break;
      case 'brand':
        await change({ brandId: action.to });
        break;
      case 'remove':
        await send('DELETE', paths.mark(card.id));
        break;
      case 'files':
        await send<DeliveryView>('POST', paths.markDeliveries(card.id), { basedOn: card.revision });
        break;
      case 'standard': {
        const own = await send<MarkView>('GET', paths.mark(card.id));
        const lines = linesByStandard(action.lines, own.recipe, (k) => `standard-${k}`);
        const recipe = { ...own.recipe, files: { ...own.recipe.files, lines } };
        const body = { basedOn: own.revision, why: 'Take the standard lines', recipe };
        await send<MarkView>('PUT', paths.markRecipe(card.id), body);
        break;
      }
      case 'variants': {
        if (!source || card.id === action.from) break;
        const own = await send<MarkView>('GET', paths.mark(card.id));
        const recipe = withVariants(own.recipe, source);
        const body = { basedOn: own.revision, why: 'Take the variants of another mark', recipe };
        await send<MarkView>('PUT', paths.markRecipe(card.id), body);
        break;
      }
      case 'recipe': {
        if (!source || card.id === action.from) break;
        const own = await send<MarkView>('GET', paths.mark(card.id));
        const recipe = withoutPlaces(source, own.recipe);
        const body = { basedOn: own.revision, why: 'Take the settings of another mark', recipe };
        await send<MarkView>('PUT', paths.markRecipe(card.id), body);
      }
    }
  }

  return {
    progress,
    results,
    clear: () => setResults([]),
    async run(marks, action) {
      const ended: BulkResult[] = [];
      setResults([]);
      setProgress({ done: 0, of: marks.length });
      const source = 'from' in action ? (await send<MarkView>('GET', paths.mark(action.from))).recipe : null;
      // Files of many marks are one delivery; where one of them cannot be made each is asked for alone.
      const isOne = action.kind === 'files' && marks.length > 1 && (await askForAll(marks));
      for (const mark of isOne ? [] : marks) {
        const problem = await doOne(mark, action, source).then(
          () => null,
          (error: unknown) => wordsFor(error),
        );
        ended.push({ name: mark.name, problem });
        setProgress({ done: ended.length, of: marks.length });
      }
      if (isOne) ended.push(...marks.map(({ name }) => ({ name, problem: null })));
      setProgress(null);
      setResults(ended);
      for (const key of ['marks', 'mark', 'brands', 'deliveries']) void queries.invalidateQueries({ queryKey: [key] });
    },
  };
}

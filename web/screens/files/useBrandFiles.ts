import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { paths } from '../../../contract/paths';
import type { BrandChanged, BrandView } from '../../../contract/views';
import type { OwnPurpose, StandardLine } from '../../../core/recipe/standardLines';
import { send } from '../../data/http';
import { brandsQuery } from '../../data/queries';
import { wordsFor } from '../../messages';

export interface BrandFiles {
  setStandard(brand: BrandView, lines: readonly StandardLine[]): Promise<void>;
  /** Keeps a purpose under its title; one of the same title makes way. */
  addPurpose(brand: BrandView, purpose: OwnPurpose): Promise<void>;
  readonly problem: string | null;
}

/** What a brand keeps of its files: standard lines, and purposes of its own. */
export function useBrandFiles(): BrandFiles {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const change = useCallback(
    async (brand: BrandView, what: object) => {
      setProblem(null);
      const body = { basedOn: brand.edition, ...what };
      await send<BrandChanged>('PATCH', paths.brand(brand.id), body).catch((e: unknown) => setProblem(wordsFor(e)));
      // Also after a conflict: what is shown then is the newer state.
      await queries.invalidateQueries(brandsQuery());
    },
    [queries],
  );
  return {
    problem,
    setStandard: (brand, standardLines) =>
      change(brand, { standardLines: standardLines.length > 0 ? standardLines : null }),
    addPurpose: (brand, purpose) => {
      const others = brand.ownPurposes.filter((p) => p.title !== purpose.title);
      return change(brand, { ownPurposes: [...others, purpose] });
    },
  };
}

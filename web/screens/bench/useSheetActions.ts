import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { useNavigate } from 'react-router';
import { paths } from '../../../contract/paths';
import type { BrandChanged, BrandView, MarkView } from '../../../contract/views';
import type { Variant } from '../../../core/recipe/recipe';
import { cutToLength } from '../../../core/text/cutText';
import { send } from '../../data/http';
import { brandsQuery } from '../../data/queries';
import { wordsFor } from '../../messages';

export interface SheetActions {
  readonly makeMarks: (marks: readonly { name: string; recipe: unknown }[]) => Promise<void>;
  readonly addColour: (brand: BrandView, hex: string) => Promise<void>;
  /** Makes some variants what the brand's new marks start with. */
  readonly setStart: (brand: BrandView, variants: readonly Variant[]) => Promise<void>;
  readonly problem: string | null;
  readonly isBusy: boolean;
}

/** What goes beyond the mark's own recipe: separate marks from one sheet, and colours for the palette. */
export function useSheetActions(mark: MarkView): SheetActions {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const during = useCallback(async (work: () => Promise<void>) => {
    setBusy(true);
    setProblem(null);
    await work().catch((error: unknown) => setProblem(wordsFor(error)));
    setBusy(false);
  }, []);
  const makeMarks = useCallback(
    (marks: readonly { name: string; recipe: unknown }[]) =>
      during(async () => {
        await send<MarkView[]>('POST', paths.markSiblings(mark.id), { basedOn: mark.revision, marks });
        await queries.invalidateQueries({ queryKey: ['marks'] });
        void navigate('/marks');
      }),
    [during, mark.id, mark.revision, queries, navigate],
  );
  const addColour = useCallback(
    (brand: BrandView, hex: string) =>
      during(async () => {
        const change = send<BrandChanged>('PATCH', paths.brand(brand.id), {
          basedOn: brand.edition,
          palette: [...brand.palette, { name: cutToLength(`Ink of ${mark.name}`, 60), hex }],
        });
        // Also after a conflict: the palette shown then is the newer one.
        await change.finally(() => queries.invalidateQueries(brandsQuery()));
      }),
    [during, mark.name, queries],
  );
  const setStart = useCallback(
    (brand: BrandView, startSet: readonly Variant[]) =>
      during(async () => {
        const change = send<BrandChanged>('PATCH', paths.brand(brand.id), { basedOn: brand.edition, startSet });
        await change.finally(() => queries.invalidateQueries(brandsQuery()));
      }),
    [during, queries],
  );
  return { makeMarks, addColour, setStart, problem, isBusy };
}

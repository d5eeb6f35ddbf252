import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { useNavigate } from 'react-router';
import type { TakenIn } from '../../contract/views';
import { wordsFor } from '../messages';
import { send } from './http';

/** Makes a mark by a request to an address, and opens it on the bench. */
export function useNewMark<Request>(path: string) {
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const make = useCallback(
    async (request: Request) => {
      setBusy(true);
      setProblem(null);
      try {
        const { mark, isDuplicate } = await send<TakenIn>('POST', path, request);
        await queries.invalidateQueries({ queryKey: ['marks'] });
        void queries.invalidateQueries({ queryKey: ['brands'] });
        void navigate(`/marks/${mark.id}/cutOut`, { state: { justTakenIn: !isDuplicate, isDuplicate } });
      } catch (error) {
        setProblem(wordsFor(error));
        setBusy(false);
      }
    },
    [path, queries, navigate],
  );
  return { make, problem, isBusy };
}

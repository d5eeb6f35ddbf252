import { useState } from 'react';
import { wordsFor } from '../../messages';

/** One thing that is done while somebody waits: whether it is under way, done, or what went wrong. */
export function useDoing() {
  const [state, setState] = useState<{ isBusy: boolean; isDone: boolean; problem: string | null }>({
    ...{ isBusy: false, isDone: false, problem: null },
  });
  const run = async (work: () => Promise<unknown>) => {
    setState({ isBusy: true, isDone: false, problem: null });
    const problem = await work().then(
      () => null,
      (error: unknown) => wordsFor(error),
    );
    setState({ isBusy: false, isDone: problem === null, problem });
  };
  return { ...state, run };
}

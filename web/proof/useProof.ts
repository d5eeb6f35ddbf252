import { useEffect, useState } from 'react';
import { paths } from '../../contract/paths';
import type { ProofAnswer, ProofPage } from '../../contract/proofs';
import { send } from '../data/http';
import { wordsFor } from '../messages';

/** What the pictures stand on: each on what it is meant for, or all on the one or the other plain ground. */
export type GroundName = 'own' | 'light' | 'dark';

/** Where a note is about to be pinned. */
export interface Pin {
  readonly picture: number;
  readonly x: number;
  readonly y: number;
}

export type Said = Pick<ProofAnswer, 'kind' | 'picture' | 'x' | 'y' | 'who' | 'words'>;

/** What a link shows, and the way to answer it. */
export function useProof(key: string) {
  const [page, setPage] = useState<ProofPage | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isSending, setSending] = useState(false);
  useEffect(() => {
    send<ProofPage>('GET', paths.proofData(key)).then(setPage, (fault: unknown) => setProblem(wordsFor(fault)));
  }, [key]);
  const answer = async (said: Said): Promise<boolean> => {
    setSending(true);
    setProblem(null);
    try {
      const answers = await send<ProofAnswer[]>('POST', paths.proofAnswers(key), said);
      setPage((before) => before && { ...before, answers });
      return true;
    } catch (fault) {
      setProblem(wordsFor(fault));
      return false;
    } finally {
      setSending(false);
    }
  };
  return { page, problem, isSending, answer };
}

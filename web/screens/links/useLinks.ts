import { queryOptions } from '@tanstack/react-query';
import { paths } from '../../../contract/paths';
import type { LiveView } from '../../../contract/live';
import type { ProofView } from '../../../contract/proofs';
import { send } from '../../data/http';

/** Others answer and fetch meanwhile. */
const REFRESH_MS = 5_000;

export const proofsQuery = (brandId: string) =>
  queryOptions({
    queryKey: ['proofs', brandId],
    queryFn: () => send<ProofView[]>('GET', paths.brandProofs(brandId)),
    refetchInterval: REFRESH_MS,
  });
export const liveQuery = (brandId: string) =>
  queryOptions({
    queryKey: ['live', brandId],
    queryFn: () => send<LiveView[]>('GET', paths.brandLive(brandId)),
    refetchInterval: REFRESH_MS,
  });

import { queryOptions } from '@tanstack/react-query';
import { paths } from '../../contract/paths';
import type { MeView } from '../../contract/people';
import type {
  BrandView,
  DeliveryView,
  GroundView,
  HistoryEntry,
  MarkCard,
  MarkView,
  PageView,
} from '../../contract/views';
import { send } from './http';

/** Who is signed in; nobody on this machine alone. */
export const meQuery = () =>
  queryOptions({ queryKey: ['me'], queryFn: () => send<MeView>('GET', paths.me), staleTime: 60_000 });
export const brandsQuery = () =>
  queryOptions({ queryKey: ['brands'], queryFn: () => send<BrandView[]>('GET', paths.brands) });
/** Until every mark was looked at by the server, what was found is not all there. */
const LOOK_AGAIN_MS = 1500;
/** Others may work on the same brand. */
const REFRESH_MS = 15_000;

export const marksQuery = (brandId: string) =>
  queryOptions({
    queryKey: ['marks', brandId],
    queryFn: () => send<MarkCard[]>('GET', paths.brandMarks(brandId)),
    refetchInterval: ({ state }) => (state.data?.every((m) => m.isLookedAt) === false ? LOOK_AGAIN_MS : REFRESH_MS),
  });
export const removedQuery = (brandId: string) =>
  queryOptions({
    queryKey: ['marks', brandId, 'removed'],
    queryFn: () => send<MarkCard[]>('GET', paths.brandRemoved(brandId)),
    refetchInterval: REFRESH_MS,
  });
export const groundsQuery = (brandId: string) =>
  queryOptions({
    queryKey: ['grounds', brandId],
    queryFn: () => send<GroundView[]>('GET', paths.brandGrounds(brandId)),
    staleTime: 600_000,
  });
/** What can be picked on a page of a PDF file. */
export const pageQuery = (sha: string, page: number, name: string) =>
  queryOptions({
    queryKey: ['pdf', sha, page],
    queryFn: () => send<PageView>('GET', `${paths.pdfPage(sha, page)}?name=${encodeURIComponent(name)}`),
    staleTime: Infinity,
  });
export const markQuery = (id: string) =>
  queryOptions({ queryKey: ['mark', id], queryFn: () => send<MarkView>('GET', paths.mark(id)) });
export const historyQuery = (markId: string, revision: number) =>
  queryOptions({
    queryKey: ['history', markId, revision],
    queryFn: () => send<HistoryEntry[]>('GET', paths.markHistory(markId)),
  });
export const deliveriesQuery = (brandId: string, markId: string | null) =>
  queryOptions({
    queryKey: ['deliveries', brandId, markId],
    queryFn: () => send<DeliveryView[]>('GET', `${paths.brandDeliveries(brandId)}${markId ? `?mark=${markId}` : ''}`),
  });

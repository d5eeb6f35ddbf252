import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { paths } from '../../../contract/paths';
import type {
  GroundChange,
  LookView,
  PieceView,
  PlacementCard,
  PlacementView,
  RunOptions,
} from '../../../contract/views';
import type { Placement } from '../../../core/placements/readPlacement';
import { outlasting, send } from '../../data/http';
import { useHeldDraft } from '../../data/useHeldDraft';
import { wordsFor } from '../../messages';

/** A run that is being made is looked after so often. */
const RUN_MS = 500;
const isMoving = (p: PlacementView | undefined) => p?.run.state === 'waiting' || p?.run.state === 'making';

export const placementsQuery = (brandId: string) =>
  queryOptions({
    queryKey: ['placements', brandId],
    queryFn: () => send<PlacementCard[]>('GET', paths.brandPlacements(brandId)),
  });
export const piecesQuery = (brandId: string) =>
  queryOptions({
    queryKey: ['pieces', brandId],
    queryFn: () => send<PieceView[]>('GET', paths.brandPieces(brandId)),
  });
export const placementQuery = (id: string) =>
  queryOptions({
    queryKey: ['placement', id],
    queryFn: () => send<PlacementView>('GET', paths.placement(id)),
    refetchInterval: ({ state }) => (isMoving(state.data) ? RUN_MS : false),
  });

/** A placement under the hand: changes show at once and are stored one after another. */
export function usePlacement(id: string) {
  const queries = useQueryClient();
  const { data, error } = useQuery(placementQuery(id));
  const [problem, setProblem] = useState<string | null>(null);
  const chain = useRef<Promise<unknown>>(Promise.resolve());
  const keep = useCallback(
    (view: PlacementView) => queries.setQueryData(placementQuery(id).queryKey, view),
    [queries, id],
  );
  const step = useCallback(
    (work: () => Promise<PlacementView>) => {
      setProblem(null);
      const next = chain.current
        .then(() => outlasting(work))
        .then(
          (view) => {
            keep(view);
            void queries.invalidateQueries({ queryKey: ['placements'] });
          },
          async (fault: unknown) => {
            setProblem(wordsFor(fault));
            await queries.refetchQueries({ queryKey: placementQuery(id).queryKey });
          },
        );
      chain.current = next;
      return next;
    },
    [id, keep, queries],
  );
  const edition = () => (queries.getQueryData(placementQuery(id).queryKey) as PlacementView).edition;
  const change = useCallback(
    (body: { rule?: Placement; options?: RunOptions; name?: string }) =>
      step(() => send<PlacementView>('PATCH', paths.placement(id), { basedOn: edition(), ...body })),
    // The edition is read when its turn comes.
    [step, id],
  );
  const { draft, preview, hold } = useHeldDraft<Placement>(data?.edition, edition);
  return {
    placement: data && draft ? { ...data, rule: draft } : data,
    stored: data,
    error,
    problem,
    isRunning: isMoving(data),
    preview,
    setRule: (rule: Placement) => hold(rule, () => change({ rule })),
    change,
    changeGround: (ground: string, own: GroundChange | null) =>
      step(() => send<PlacementView>('PATCH', paths.runGround(ground), { change: own })),
    removeGround: (ground: string) =>
      step(async () => {
        await send('DELETE', paths.runGround(ground));
        return send<PlacementView>('GET', paths.placement(id));
      }),
    step,
    settle: () => chain.current,
  };
}
export type PlacementDraft = ReturnType<typeof usePlacement>;

/** So many grounds are looked at by one request: the first answers come soon. */
const AT_ONCE = 6;

/** How a placement comes out on each ground, the shown one first; what is not known yet is not there. */
export function useLooks(placement: PlacementView | undefined, current: string | null, marksKey: string) {
  const [looks, setLooks] = useState<ReadonlyMap<string, LookView>>(new Map());
  const known = useRef(new Map<string, string>());
  const { id, rule, grounds } = placement ?? {};
  const key = JSON.stringify([rule, marksKey]);
  const changes = JSON.stringify(grounds?.map((g) => [g.id, g.change]));
  useEffect(() => {
    if (!id || !grounds) return;
    let isOver = false;
    const keyOf = (g: (typeof grounds)[number]) => `${key}${JSON.stringify(g.change)}`;
    const ask = async (ids: string[], corners: boolean) => {
      const found = await send<LookView[]>('POST', paths.placementLook(id), { grounds: ids, corners });
      if (isOver) return;
      for (const g of grounds) if (ids.includes(g.id)) known.current.set(g.id, keyOf(g) + (corners ? '+' : ''));
      setLooks((before) => {
        const next = new Map(before);
        for (const look of found) {
          const earlier = before.get(look.ground);
          next.set(look.ground, corners || !earlier ? look : { ...look, corners: earlier.corners });
        }
        return next;
      });
    };
    void (async () => {
      const shown = grounds.find((g) => g.id === current);
      const hasAll = shown && known.current.get(shown.id) === `${keyOf(shown)}+`;
      if (shown && !hasAll) await ask([shown.id], true);
      const left = grounds.filter((g) => g.id !== current && !known.current.get(g.id)?.startsWith(keyOf(g)));
      for (let k = 0; k < left.length && !isOver; k += AT_ONCE)
        await ask(
          left.slice(k, k + AT_ONCE).map((g) => g.id),
          false,
        );
    })().catch(() => {
      // What cannot be looked at is told when it is written.
    });
    return () => {
      isOver = true;
    };
    // Everything that a look hangs on is in these words.
  }, [id, key, changes, current]);
  return looks;
}

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
    setRule: (rule: Placement, name?: string) =>
      hold(rule, () => change({ rule, ...(name === undefined ? {} : { name }) })),
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

/** Backgrounds of one request: the first answers come soon. */
const AT_ONCE = 6;

/** What is known of how a placement comes out on its backgrounds. */
export interface Checks {
  /** The newest of each background, which may be older than what the screen shows. */
  readonly looks: ReadonlyMap<string, LookView>;
  /** Whether what is known of a background was made of what the screen shows. */
  readonly isFresh: (ground: string) => boolean;
  /** Backgrounds whose check is still to come. */
  readonly left: number;
  /** Why the last check could not be made. */
  readonly problem: string | null;
}

interface KnownLook {
  readonly look: LookView;
  /** What it was made of. */
  readonly key: string;
  readonly hasCorners: boolean;
}

type Grounds = PlacementView['grounds'];

/**
 * Checks how a placement comes out on each background, the shown one first.
 * @param shown  the placement as the screen shows it, which may not be stored yet
 */
export function useLooks(
  placement: PlacementView | undefined,
  shown: PlacementView,
  current: string | null,
  marksKey: string,
): Checks {
  const [known, setKnown] = useState<ReadonlyMap<string, KnownLook>>(new Map());
  const [failed, setFailed] = useState<{ key: string; problem: string } | null>(null);
  const newest = useRef(known);
  const { id, rule, grounds } = placement ?? {};
  const key = JSON.stringify([rule, marksKey]);
  const changes = JSON.stringify(grounds?.map((g) => [g.id, g.change]));
  const wanted = `${key}${changes}`;
  useEffect(() => {
    if (!id || !grounds) return;
    let isOver = false;
    const has = (g: Grounds[number], corners: boolean) => {
      const own = newest.current.get(g.id);
      return own?.key === keyOf(key, g) && (own.hasCorners || !corners);
    };
    const ask = async (asked: Grounds, corners: boolean) => {
      const found = await send<LookView[]>('POST', paths.placementLook(id), {
        ...{ grounds: asked.map((g) => g.id), corners },
      });
      if (isOver) return;
      const next = new Map(newest.current);
      for (const g of asked) {
        const look = found.find((l) => l.ground === g.id);
        if (!look) continue;
        const before = next.get(g.id);
        const kept = corners || before?.key !== keyOf(key, g) ? null : before.look.corners;
        next.set(g.id, {
          look: kept ? { ...look, corners: kept } : look,
          key: keyOf(key, g),
          hasCorners: corners || kept !== null,
        });
      }
      newest.current = next;
      setKnown(next);
    };
    void (async () => {
      const first = grounds.find((g) => g.id === current);
      if (first && !has(first, true)) await ask([first], true);
      const left = grounds.filter((g) => g.id !== current && !has(g, false));
      for (let k = 0; k < left.length && !isOver; k += AT_ONCE) await ask(left.slice(k, k + AT_ONCE), false);
      if (!isOver) setFailed(null);
    })().catch((fault: unknown) => {
      if (!isOver) setFailed({ key: wanted, problem: wordsFor(fault) });
    });
    return () => {
      isOver = true;
    };
    // Everything that a check depends on is in these words.
  }, [id, key, changes, current]);
  const shownKey = JSON.stringify([shown.rule, marksKey]);
  const isFresh = (ground: string) => {
    const g = shown.grounds.find((own) => own.id === ground);
    return g !== undefined && known.get(ground)?.key === keyOf(shownKey, g);
  };
  const problem = failed?.key === wanted ? failed.problem : null;
  return {
    looks: new Map([...known].map(([ground, { look }]) => [ground, look])),
    isFresh,
    left: problem === null ? shown.grounds.filter((g) => !isFresh(g.id)).length : 0,
    problem,
  };
}

const keyOf = (rule: string, { change }: Grounds[number]) => `${rule}${JSON.stringify(change)}`;

import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { paths } from '../../../contract/paths';
import type { SlotLook, WallCard, WallView } from '../../../contract/walls';
import type { WallRule } from '../../../core/wall/wallRule';
import { outlasting, send, upload } from '../../data/http';
import { useHeldDraft } from '../../data/useHeldDraft';
import { wordsFor } from '../../messages';

export const wallsQuery = (brandId: string) =>
  queryOptions({ queryKey: ['walls', brandId], queryFn: () => send<WallCard[]>('GET', paths.brandWalls(brandId)) });
export const wallQuery = (id: string) =>
  queryOptions({ queryKey: ['wall', id], queryFn: () => send<WallView>('GET', paths.wall(id)) });

/** So many slots are looked at by one request: the first answers come soon. */
const AT_ONCE = 4;
/** Files that are on their way in at the same time. */
const FILES_AT_ONCE = 2;

/** What a wall is doing that takes its time. */
export interface Doing {
  readonly what: string;
  readonly done: number;
  readonly of: number;
}

/** A wall under the hand: changes show at once and are stored one by one, and slots are looked at as they change. */
export function useWall(id: string) {
  const queries = useQueryClient();
  const { data, error } = useQuery(wallQuery(id));
  const [problems, setProblems] = useState<readonly string[]>([]);
  const [doing, setDoing] = useState<Doing | null>(null);
  const chain = useRef<Promise<unknown>>(Promise.resolve());
  const looks = useRef(new Map<string, SlotLook>());
  const stop = useRef(new AbortController());
  const keep = useCallback((view: WallView) => queries.setQueryData(wallQuery(id).queryKey, view), [queries, id]);
  const step = useCallback(
    (work: () => Promise<WallView>) => {
      const next = chain.current
        .then(() => outlasting(work))
        .then(keep, async (fault: unknown) => {
          setProblems([wordsFor(fault)]);
          await queries.refetchQueries({ queryKey: wallQuery(id).queryKey });
        });
      chain.current = next;
      return next;
    },
    [id, keep, queries],
  );
  useLooks(data, step);
  // What is looked at anew stands as it was until the new look is there.
  for (const s of data?.slots ?? []) if (s.look) looks.current.set(s.id, s.look);
  const unchecked = data?.slots.filter((s) => !s.look && !s.problems.includes('gone')) ?? [];
  const slots = data?.slots.map((s) => (s.look ? s : { ...s, look: looks.current.get(s.id) ?? null }));

  const edition = () => (queries.getQueryData(wallQuery(id).queryKey) as WallView).edition;
  const change = (body: { rule?: WallRule; name?: string }) =>
    step(() => send<WallView>('PATCH', paths.wall(id), { basedOn: edition(), ...body }));
  const { draft, preview, hold } = useHeldDraft<WallRule>(data?.edition, edition);
  const add = async (files: readonly File[]) => {
    setProblems([]);
    stop.current = new AbortController();
    const { signal } = stop.current;
    const first = data?.slots.length ?? 0;
    const queue = files.map((file, k) => ({ file, at: first + k }));
    let done = 0;
    setDoing({ what: 'taken in', done, of: files.length });
    const serve = async () => {
      for (let next = queue.shift(); next && !signal.aborted; next = queue.shift()) {
        const path = `${paths.wallFiles(id)}?name=${encodeURIComponent(next.file.name)}&at=${next.at}`;
        await upload<WallView>(path, next.file, signal).catch((fault: unknown) => {
          if (!signal.aborted) setProblems((all) => [...all, wordsFor(fault)]);
        });
        setDoing({ what: 'taken in', done: ++done, of: files.length });
      }
    };
    await Promise.all(Array.from({ length: FILES_AT_ONCE }, serve));
    setDoing(null);
    await step(() => send<WallView>('GET', paths.wall(id)));
    void queries.invalidateQueries({ queryKey: ['marks'] });
  };
  return {
    wall: data && slots ? { ...data, slots, rule: draft ?? data.rule } : data,
    error,
    /** Slots whose check belongs to earlier settings, or is still to come. */
    unchecked: draft ? (data?.slots ?? []).map((s) => s.id) : unchecked.map((s) => s.id),
    problems,
    doing,
    tell: (fault: unknown) => setProblems([wordsFor(fault)]),
    preview,
    setRule: (rule: WallRule) => {
      setProblems([]);
      hold(rule, () => change({ rule }));
    },
    change,
    step,
    add,
    cancel: () => stop.current.abort(),
    settle: () => chain.current,
  };
}
export type WallDraft = ReturnType<typeof useWall>;

/** Asks for a look at slots that nobody has looked at as they are. */
function useLooks(wall: WallView | undefined, step: (work: () => Promise<WallView>) => Promise<unknown>) {
  const asked = useRef('');
  const unseen = wall?.slots.filter((s) => !s.look && !s.problems.includes('gone')).map((s) => s.id) ?? [];
  const key = unseen.join();
  useEffect(() => {
    if (!wall || key === '' || asked.current === `${wall.edition}${key}`) return;
    asked.current = `${wall.edition}${key}`;
    const slots = unseen.slice(0, AT_ONCE);
    void step(() => send<WallView>('POST', paths.wallLook(wall.id), { slots }));
    // Which slots these are says it all.
  }, [key, wall?.edition, step]);
}

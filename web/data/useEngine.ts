import { useEffect, useMemo, useRef, useState } from 'react';
import { paths } from '../../contract/paths';
import type { MarkView } from '../../contract/views';
import type { StageId, StageValues } from '../../core/stages';
import { type CoreClient, createCoreClient } from '../../worker/client';
import type { ArtworkShown, GroundSource, Opened, StagesDone, Step, WorkSource } from '../../worker/protocol';
import { wordsFor } from '../messages';

/** All stages as the screen shows them, and the reduction they were computed at. */
export interface Shown extends StagesDone {
  readonly reduction: number;
}

/** After the last stage. */
export const masterOf = (shown: Shown | null): ArtworkShown | null => shown && (shown.master ?? shown.shown);

export interface Engine {
  readonly original: Opened | null;
  /** The original at full size, once there. */
  readonly originalFull: Opened | null;
  /** The newest result from the reduced picture: answers while a control moves. */
  readonly quick: Shown | null;
  /** The result at full size, when it belongs to the present settings. */
  readonly full: Shown | null;
  /** The mark after each stage, small; undefined before it was there, null where nothing is visible. */
  readonly beads: Partial<Record<StageId, ImageBitmap | null>>;
  readonly isSettling: boolean;
  /** How far long work at full size is; null where nothing long is under way. */
  readonly step: Step | null;
  readonly problem: string | null;
  readonly fast: CoreClient | null;
  /** Works at full size; the fast one where that does. */
  readonly whole: CoreClient | null;
}

const SETTLE_AFTER_MS = 120;
const startWorker = () =>
  createCoreClient(
    new Worker(new URL('../../worker/entry.ts', import.meta.url), { type: 'module', name: 'tassel-core' }) as never,
  );

function sourceOf(mark: MarkView, size: 'working' | 'reduced', reduction: number): WorkSource {
  const path = mark.source === 'drawing' ? paths.markDrawing(mark.id) : paths.markPicture(mark.id, size);
  // Pictures are kept by the browser for ever, so another original has another address.
  const url = `${path}?of=${mark.sourceKey}`;
  return { key: `${mark.id}-${mark.sourceKey}-${size}`, kind: mark.source, url, reduction };
}

/**
 * Two speeds: a worker with the reduced picture answers every move, another with the working picture settles the
 * result once the settings rest and nothing is held. A small picture needs only the first, which then works at full
 * size.
 * @param open  the stage whose output is looked at; null for the last
 */
export function useEngine(
  mark: MarkView,
  values: StageValues,
  grounds: readonly GroundSource[],
  open: StageId | null,
  isMoving: boolean,
): Engine {
  const reduction = mark.width / mark.reducedWidth;
  const isReduced = reduction > 1;
  const [fast, setFast] = useState<CoreClient | null>(null);
  const [slow, setSlow] = useState<CoreClient | null>(null);
  const [original, setOriginal] = useState<Opened | null>(null);
  const [originalFull, setOriginalFull] = useState<Opened | null>(null);
  const [quick, setQuick] = useState<Shown | null>(null);
  const [full, setFull] = useState<{ key: string; shown: Shown } | null>(null);
  const [beads, setBeads] = useState<Engine['beads']>({});
  const [step, setStep] = useState<Step | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const key = useMemo(() => JSON.stringify([values, open]), [values, open]);
  const newest = useRef({ values, open });
  newest.current = { values, open };
  const whole = useRef(mark);
  whole.current = mark;

  useEffect(() => {
    let isGone = false;
    const client = startWorker();
    client
      .ask({ type: 'open', source: sourceOf(whole.current, 'reduced', reduction) })
      .then((opened) => {
        if (isGone) return;
        setOriginal(opened);
        setFast(client);
      })
      .catch((error: unknown) => !isGone && setProblem(wordsFor(error)));
    return () => {
      isGone = true;
      client.close();
      setFast(null);
      setOriginal(null);
      setQuick(null);
      setBeads({});
    };
  }, [mark.id, reduction]);

  // The large picture comes second, so that the first result does not wait for it.
  const hasFirst = quick !== null;
  useEffect(() => {
    if (!isReduced || !hasFirst) return;
    let isGone = false;
    const client = startWorker();
    client
      .ask({ type: 'open', source: sourceOf(whole.current, 'working', 1) })
      .then((opened) => {
        if (isGone) return;
        setOriginalFull(opened);
        setSlow(client);
      })
      .catch((error: unknown) => !isGone && setProblem(wordsFor(error)));
    return () => {
      isGone = true;
      client.close();
      setSlow(null);
      setOriginalFull(null);
      setFull(null);
    };
  }, [mark.id, isReduced, hasFirst]);

  // An answer that comes while the hand moves on is still the newest there is, so it is shown; only a closed worker's
  // is not.
  const alive = useRef<CoreClient | null>(null);
  useEffect(() => {
    alive.current = fast;
    if (!fast) return;
    const began = performance.now();
    fast
      .askLatest({ type: 'stages', ...newest.current, grounds, hasBeads: true })
      .then((done) => {
        if (!done || alive.current !== fast) return;
        performance.measure('tassel-quick', { start: began });
        setQuick({ ...done, reduction });
        setBeads((held) => ({ ...held, ...changedBeads(done) }));
        setProblem(null);
      })
      .catch((error: unknown) => alive.current === fast && setProblem(wordsFor(error)));
  }, [fast, key, grounds, reduction]);

  useEffect(() => {
    if (!slow || isMoving) return;
    let isGone = false;
    const timer = setTimeout(() => {
      // At full size work takes long and shows nothing on the way: what nobody waits for any more is stopped.
      slow
        .askLatest(
          { type: 'stages', ...newest.current, grounds: [], hasBeads: false },
          { stopsEarlier: true, onStep: (now) => !isGone && setStep(now) },
        )
        .then((done) => done && !isGone && setFull({ key, shown: { ...done, reduction: 1 } }))
        .catch(() => {})
        .finally(() => !isGone && setStep(null));
    }, SETTLE_AFTER_MS);
    return () => {
      isGone = true;
      setStep(null);
      clearTimeout(timer);
    };
  }, [slow, key, isMoving]);

  const isCurrent = full !== null && full.key === key;
  return {
    original,
    originalFull,
    quick,
    full: isReduced ? (isCurrent ? full.shown : null) : quick,
    beads,
    isSettling: isReduced && slow !== null && !isCurrent,
    step,
    problem,
    fast,
    whole: isReduced ? slow : fast,
  };
}

const changedBeads = (done: StagesDone): Engine['beads'] =>
  Object.fromEntries(
    Object.entries(done.perStage).flatMap(([id, { bead }]) => (bead === undefined ? [] : [[id, bead]])),
  );

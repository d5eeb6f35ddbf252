import { useEffect, useMemo, useRef, useState } from 'react';
import { paths } from '../../../contract/paths';
import type { GroundView, MarkView } from '../../../contract/views';
import type { StageValues } from '../../../core/stages';
import { type CoreClient, createCoreClient } from '../../../worker/client';
import type { GroundSource, Opened, StagesDone } from '../../../worker/protocol';
import { wordsFor } from '../../messages';

/** A master as the screen shows it, and the reduction it was computed at. */
export interface Shown extends StagesDone {
  readonly reduction: number;
}

export interface Engine {
  readonly original: Opened | null;
  /** The original at full size, once there. */
  readonly originalFull: Opened | null;
  /** The newest result from the reduced picture: answers while a control moves. */
  readonly quick: Shown | null;
  /** The settled result at full size, when it belongs to the present settings. */
  readonly full: Shown | null;
  readonly isSettling: boolean;
  readonly problem: string | null;
  readonly fast: CoreClient | null;
}

const SETTLE_AFTER_MS = 120;
const startWorker = () =>
  createCoreClient(
    new Worker(new URL('../../../worker/entry.ts', import.meta.url), { type: 'module', name: 'tassel-core' }) as never,
  );

/**
 * Two speeds: a worker with the reduced picture answers every move, another with the working picture settles the
 * result once the settings rest and nothing is held. A small picture needs only the first, which then works at full size.
 */
export function useEngine(
  mark: MarkView,
  values: StageValues,
  grounds: readonly GroundSource[],
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
  const [problem, setProblem] = useState<string | null>(null);
  const key = useMemo(() => JSON.stringify(values), [values]);
  const newest = useRef(values);
  newest.current = values;

  useEffect(() => {
    let isGone = false;
    const client = startWorker();
    client
      .ask({
        type: 'open',
        source: { key: `${mark.id}-reduced`, url: paths.markPicture(mark.id, 'reduced'), reduction },
      })
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
    };
  }, [mark.id, reduction]);

  // The large picture comes second, so that the first result does not wait for it.
  const hasFirst = quick !== null;
  useEffect(() => {
    if (!isReduced || !hasFirst) return;
    let isGone = false;
    const client = startWorker();
    client
      .ask({
        type: 'open',
        source: { key: `${mark.id}-working`, url: paths.markPicture(mark.id, 'working'), reduction: 1 },
      })
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

  // An answer that comes while the hand moves on is still the newest there is, so it is shown; only a closed worker's is not.
  const alive = useRef<CoreClient | null>(null);
  useEffect(() => {
    alive.current = fast;
    if (!fast) return;
    const began = performance.now();
    fast
      .askLatest({ type: 'stages', values: newest.current, grounds })
      .then((done) => {
        if (!done || alive.current !== fast) return;
        performance.measure('tassel-quick', { start: began });
        setQuick({ ...done, reduction });
        setProblem(null);
      })
      .catch((error: unknown) => alive.current === fast && setProblem(wordsFor(error)));
  }, [fast, key, grounds, reduction]);

  useEffect(() => {
    if (!slow || isMoving) return;
    let isGone = false;
    const timer = setTimeout(() => {
      slow
        .askLatest({ type: 'stages', values: newest.current, grounds: [] })
        .then((done) => done && !isGone && setFull({ key, shown: { ...done, reduction: 1 } }))
        .catch(() => {});
    }, SETTLE_AFTER_MS);
    return () => {
      isGone = true;
      clearTimeout(timer);
    };
  }, [slow, key, isMoving]);

  const isCurrent = full !== null && full.key === key;
  return {
    original,
    originalFull,
    quick,
    full: isReduced ? (isCurrent ? full.shown : null) : quick,
    isSettling: isReduced && slow !== null && !isCurrent,
    problem,
    fast,
  };
}

/** The six grounds of the proof strip: three plain, the brand's, a light and a dark photo. */
export interface ProofGround extends GroundSource {
  readonly name: string;
}

export function proofGrounds(
  palette: readonly { name: string; hex: string }[],
  photos: readonly GroundView[],
): ProofGround[] {
  const plain = (id: string, name: string, hex: string): ProofGround => ({ id, name, hex, url: null });
  const photo = (tone: GroundView['tone']): ProofGround[] =>
    photos
      .filter((g) => g.tone === tone)
      .slice(0, 1)
      .map((g) => ({ id: g.id, name: g.name, hex: null, url: g.picture }));
  const brand = palette.find((c) => c.name === 'Enamel cream') ?? palette[0];
  return [
    plain('white', 'White', '#ffffff'),
    plain('grey', 'Mid grey', '#808080'),
    plain('black', 'Black', '#000000'),
    ...(brand ? [plain('brand', brand.name, brand.hex)] : []),
    ...photo('light'),
    ...photo('dark'),
  ];
}

import { act, renderHook, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { initialRecipe } from '../../core/recipe/recipe';
import type { StageValues } from '../../core/stages';
import { markView } from '../../tests/support/webViews';
import type { Envelope, StagesDone } from '../../worker/protocol';
import { masterOf, useEngine } from './useEngine';

class FakeWorker {
  static all: FakeWorker[] = [];
  onmessage: ((e: { data: unknown }) => void) | null = null;
  onerror: ((e: { message: string }) => void) | null = null;
  readonly sent: Envelope[] = [];
  isEnded = false;
  constructor() {
    FakeWorker.all.push(this);
  }
  postMessage(message: Envelope) {
    this.sent.push(message);
  }
  terminate() {
    this.isEnded = true;
  }
  last = (type: string) => this.sent.filter((m) => m.request.type === type).at(-1) as Envelope;
  answer = (type: string, value: unknown) =>
    act(async () => this.onmessage?.({ data: { id: this.last(type).id, ok: true, value } }));
  refuse = (type: string, message: string) =>
    act(async () =>
      this.onmessage?.({
        data: { id: this.last(type).id, ok: false, error: { code: 'cutout/no-ink', message, details: {} } },
      }),
    );
}

const bitmap = (width: number) => ({ width, height: 10 }) as ImageBitmap;
const shown = (width: number) => ({
  bitmap: bitmap(width),
  frame: { width, height: 10 },
  toWorking: [1, 0, 0, 0, 1, 0, 0, 0, 1],
  extents: null,
  exactExtents: null,
  hasPaths: false,
  outlineExtents: null,
});
const done = (change: Partial<StagesDone> = {}): StagesDone =>
  ({
    shown: shown(5),
    master: null,
    cropped: null,
    perStage: { crop: { findings: [], facts: {} }, cutOut: { findings: [], facts: {} } },
    facts: { way: 'keep' },
    findings: [],
    contrast: {},
    ms: 1,
    ...change,
  }) as unknown as StagesDone;
const values = initialRecipe().stages;
const turned = (turn: number): StageValues => ({ ...values, crop: { ...values.crop, turn } });
const small = markView();
const large = markView({ width: 4000, height: 3000, reducedWidth: 1000 });

const run = (mark = small) =>
  renderHook(({ v, isMoving }) => useEngine(mark, v, NO_GROUNDS, 'cutOut', isMoving), {
    initialProps: { v: values, isMoving: false },
  });
const NO_GROUNDS: never[] = [];

beforeEach(() => {
  FakeWorker.all = [];
  vi.stubGlobal('Worker', FakeWorker);
});

describe('a small picture', () => {
  it('needs one worker, whose result is the full one too', async () => {
    const { result } = run();
    const [worker] = FakeWorker.all;
    expect(worker.last('open').request).toMatchObject({ source: { kind: 'picture', reduction: 1 } });
    await worker.answer('open', { width: 900, height: 900, original: bitmap(900) });
    expect(worker.last('stages').request).toMatchObject({ open: 'cutOut', hasBeads: true });
    expect([result.current.quick, result.current.full]).toEqual([null, null]);
    await worker.answer('stages', done());
    expect(result.current.full).toBe(result.current.quick);
    expect(masterOf(result.current.quick)?.bitmap?.width).toBe(5);
    expect([FakeWorker.all.length, result.current.isSettling]).toEqual([1, false]);
  });
  it('keeps the beads that did not change, and takes over those that did', async () => {
    const { result, rerender } = run();
    const [worker] = FakeWorker.all;
    await worker.answer('open', { width: 900, height: 900, original: bitmap(900) });
    const beads = (crop?: ImageBitmap, cutOut?: ImageBitmap | null) =>
      done({
        perStage: {
          crop: { findings: [], facts: {}, bead: crop },
          cutOut: { findings: [], facts: {}, bead: cutOut },
        } as Partial<StagesDone['perStage']> as StagesDone['perStage'],
      });
    expect(result.current.beads).toEqual({});
    await worker.answer('stages', beads(bitmap(1), bitmap(2)));
    rerender({ v: turned(3), isMoving: false });
    await worker.answer('stages', beads(undefined, null));
    expect(result.current.beads.crop?.width).toBe(1);
    expect(result.current.beads.cutOut).toBeNull();
  });
  it('says what went wrong, and forgets it with the next result', async () => {
    const { result, rerender } = run();
    const [worker] = FakeWorker.all;
    await worker.answer('open', { width: 900, height: 900, original: bitmap(900) });
    await worker.refuse('stages', 'No ink stands out.');
    expect(result.current.problem).toBe('No ink stands out.');
    rerender({ v: turned(3), isMoving: false });
    await worker.answer('stages', done());
    expect(result.current.problem).toBeNull();
  });
});

describe('a large picture', () => {
  const openBoth = async () => {
    const hook = run(large);
    const [fast] = FakeWorker.all;
    await fast.answer('open', { width: 1000, height: 750, original: bitmap(1000) });
    await fast.answer('stages', done());
    const slow = FakeWorker.all[1];
    await slow.answer('open', { width: 4000, height: 3000, original: bitmap(4000) });
    return { ...hook, fast, slow };
  };
  it('answers on its reduction first, then settles at full size once nothing moves', async () => {
    const { result, slow } = await openBoth();
    expect([result.current.isSettling, result.current.full]).toEqual([true, null]);
    await waitFor(() => expect(slow.last('stages')).toBeDefined());
    expect(slow.last('stages').request).toMatchObject({ hasBeads: false });
    await slow.answer('stages', done({ shown: shown(4000) as never }));
    expect(result.current.full?.shown.bitmap?.width).toBe(4000);
    expect([result.current.isSettling, result.current.full?.reduction, result.current.quick?.reduction]).toEqual([
      false,
      1,
      4,
    ]);
  });
  it('does not settle while a control moves, and drops the full result of other settings', async () => {
    const { result, rerender, slow } = await openBoth();
    await waitFor(() => expect(slow.last('stages')).toBeDefined());
    await slow.answer('stages', done());
    rerender({ v: turned(3), isMoving: true });
    await act(async () => new Promise((r) => setTimeout(r, 200)));
    expect(slow.sent.filter((m) => m.request.type === 'stages')).toHaveLength(1);
    expect([result.current.full, result.current.isSettling]).toEqual([null, true]);
  });
  it('stops what nobody waits for at full size any more', async () => {
    const { rerender, slow } = await openBoth();
    await waitFor(() => expect(slow.last('stages')).toBeDefined());
    const flag = new Int32Array(slow.last('stages').stop as SharedArrayBuffer);
    rerender({ v: turned(3), isMoving: false });
    await waitFor(() => expect(flag[0]).toBe(1));
  });
  it('closes both workers with the screen', async () => {
    const { unmount } = await openBoth();
    unmount();
    expect(FakeWorker.all.map((w) => w.isEnded)).toEqual([true, true]);
  });
});

it('a drawing is opened as one, at the reduction that its size asks for', async () => {
  run(markView({ source: 'drawing', width: 2400, height: 1200, reducedWidth: 800 }));
  expect(FakeWorker.all[0].last('open').request).toMatchObject({
    source: { kind: 'drawing', url: '/api/marks/m1/drawing.json?of=k1', reduction: 3 },
  });
});

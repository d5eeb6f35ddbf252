import { describe, expect, it } from 'vitest';
import type { CoreError } from '../core/errors';
import { sayBytes } from '../core/recipe/needs';
import { type Stop, type TaskOrder, createTaskDesk } from './taskDesk';

const MB = 1024 ** 2;
const order = (o: Partial<TaskOrder> = {}): TaskOrder => ({
  what: 'A test',
  waiting: 'person',
  needsBytes: MB,
  mostMs: 60_000,
  ...o,
});

/** Work that goes on until it is let go. */
function held() {
  let letGo = () => {};
  const until = new Promise<void>((resolve) => (letGo = resolve));
  let hasStarted = false;
  const work = async () => {
    hasStarted = true;
    await until;
    return 'done';
  };
  return { work, letGo: () => letGo(), started: () => hasStarted };
}
const tick = () => new Promise((r) => setTimeout(r, 5));
const fault = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (e: CoreError) => e,
  );

describe('the task desk', () => {
  it('refuses at once what needs more memory than there ever is, and says how much', async () => {
    const desk = createTaskDesk({ threads: 2, memoryBytes: 2048 * MB });
    const error = await fault(
      desk.run(order({ what: 'A line of 16384 px', needsBytes: 5 * 1024 * MB }), async () => 1),
    );
    expect(error).toMatchObject({
      code: 'memory/too-little',
      message: expect.stringContaining('A line of 16384 px needs about 5 GB of memory; 2 GB are allowed here'),
    });
  });
  it('lets tasks wait for a free thread and for free memory', async () => {
    const desk = createTaskDesk({ threads: 3, memoryBytes: 100 * MB });
    const [a, b, c] = [held(), held(), held()];
    const runs = [
      desk.run(order({ needsBytes: 60 * MB }), a.work),
      desk.run(order({ needsBytes: 60 * MB }), b.work),
      desk.run(order({ needsBytes: 30 * MB }), c.work),
    ];
    await tick();
    // The third would fit, but must not pass the second by for ever.
    expect([a, b, c].map((t) => t.started())).toEqual([true, false, false]);
    expect(desk.counts).toEqual({ running: 1, waiting: 2, bytes: 60 * MB });
    a.letGo();
    await tick();
    expect([b, c].map((t) => t.started())).toEqual([true, true]);
    b.letGo();
    c.letGo();
    expect(await Promise.all(runs)).toEqual(['done', 'done', 'done']);
    expect(desk.counts).toEqual({ running: 0, waiting: 0, bytes: 0 });
  });
  it('serves people first, and keeps a thread free for them', async () => {
    const desk = createTaskDesk({ threads: 2, memoryBytes: 100 * MB });
    const all = [held(), held(), held(), held()];
    const [first, second] = all;
    const [person, late] = all.slice(2);
    void desk.run(order({ waiting: 'queue' }), first.work);
    void desk.run(order({ waiting: 'queue' }), second.work);
    void desk.run(order(), person.work);
    void desk.run(order(), late.work);
    await tick();
    expect(all.map((t) => t.started())).toEqual([true, false, true, false]);
    first.letGo();
    await tick();
    expect(all.map((t) => t.started())).toEqual([true, false, true, true]);
    all.forEach((t) => t.letGo());
  });
  it('forgets a waiting task when nobody waits for it any more', async () => {
    const desk = createTaskDesk({ threads: 1, memoryBytes: 100 * MB });
    const [busy, left] = [held(), held()];
    const gone = new AbortController();
    void desk.run(order(), busy.work);
    const run = fault(desk.run(order({ signal: gone.signal }), left.work));
    gone.abort();
    expect(await run).toMatchObject({ code: 'work/stopped' });
    busy.letGo();
    await tick();
    expect(left.started()).toBe(false);
  });
  it('tells a running task to stop, and ends its thread when it does not', async () => {
    const desk = createTaskDesk({ threads: 1, memoryBytes: 100 * MB, graceMs: 30 });
    const seen: Stop[] = [];
    const obeys = async (stop: Stop) => {
      seen.push(stop);
      while (Atomics.load(stop.flag, 0) === 0) await tick();
      throw new Error('stopped somehow');
    };
    const deaf = (stop: Stop) =>
      new Promise<never>((_, reject) => stop.signal.addEventListener('abort', () => reject(new Error('thread ended'))));
    expect(await fault(desk.run(order({ mostMs: 20 }), obeys))).toMatchObject({ code: 'work/too-long' });
    expect(seen[0].signal.aborted).toBe(false);
    expect(await fault(desk.run(order({ mostMs: 20 }), deaf))).toMatchObject({ code: 'work/too-long' });
    const gone = new AbortController();
    setTimeout(() => gone.abort(), 10);
    expect(await fault(desk.run(order({ signal: gone.signal }), deaf))).toMatchObject({ code: 'work/stopped' });
    expect(await desk.run(order(), async () => 'next')).toBe('next');
  });
});

it('bytes are said as people say them', () => {
  expect([5.2 * 1024 ** 3, 2 * 1024 ** 3, 300 * MB + 1].map(sayBytes)).toEqual(['5.2 GB', '2 GB', '301 MB']);
});

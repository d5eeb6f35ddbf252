import { describe, expect, it } from 'vitest';
import { CoreError } from '../core/errors';
import { type WorkerLike, createCoreClient } from './client';
import type { Envelope, Reply } from './protocol';

function fakeWorker() {
  const sent: Envelope[] = [];
  const worker: WorkerLike = {
    onmessage: null,
    onerror: null,
    postMessage: (m) => void sent.push(m),
    terminate: () => {},
  };
  const reply = (r: Reply) => worker.onmessage?.({ data: r } as MessageEvent<Reply>);
  return { worker, sent, reply, done: (id: number, value: unknown) => reply({ id, ok: true, value: value as never }) };
}
const matte = (way: string) => ({ type: 'matte' as const, values: { way } as never, open: null });
const tick = () => new Promise((r) => setTimeout(r, 0));

describe('createCoreClient', () => {
  it('matches answers to questions by number, in any order', async () => {
    const { worker, done } = fakeWorker();
    const client = createCoreClient(worker);
    const [a, b] = [client.ask(matte('a')), client.ask(matte('b'))];
    done(2, 'second');
    done(1, 'first');
    expect(await a).toBe('first');
    expect(await b).toBe('second');
  });
  it('builds the worker’s error again', async () => {
    const { worker, reply } = fakeWorker();
    const asked = createCoreClient(worker).ask(matte('a'));
    reply({
      id: 1,
      ok: false,
      error: { code: 'cutout/no-flat-ground', message: 'No ground.', details: { share: 0.1 } },
    });
    await expect(asked).rejects.toSatisfy(
      (e: unknown) => e instanceof CoreError && e.code === 'cutout/no-flat-ground' && e.details.share === 0.1,
    );
  });
  it('keeps only the newest of the requests that wait, and answers the ones between with nothing', async () => {
    const { worker, sent, done } = fakeWorker();
    const client = createCoreClient(worker);
    const results = ['1', '2', '3'].map((w) => client.askLatest(matte(w)));
    expect(sent).toHaveLength(1);
    done(1, 'first');
    await tick();
    expect(sent).toHaveLength(2);
    expect(sent[1].request).toEqual(matte('3'));
    done(2, 'newest');
    expect(await Promise.all(results)).toEqual(['first', null, 'newest']);
  });
  it('goes on after a failed request', async () => {
    const { worker, reply, done } = fakeWorker();
    const client = createCoreClient(worker);
    const first = client.askLatest(matte('1'));
    reply({ id: 1, ok: false, error: { code: 'crop/empty', message: 'x', details: {} } });
    await expect(first).rejects.toThrow('x');
    const second = client.askLatest(matte('2'));
    done(2, 'fine');
    expect(await second).toBe('fine');
  });
  it('tells everyone who waits when the worker breaks', async () => {
    const { worker } = fakeWorker();
    const asked = createCoreClient(worker).ask(matte('a'));
    worker.onerror?.({ message: 'out of memory' } as ErrorEvent);
    await expect(asked).rejects.toThrow('out of memory');
  });
  it('tells the work under way to stop when newer work stops earlier, and answers it with nothing', async () => {
    const { worker, sent, reply, done } = fakeWorker();
    const client = createCoreClient(worker);
    const first = client.askLatest(matte('1'), { stopsEarlier: true });
    const flag = new Int32Array(sent[0].stop as SharedArrayBuffer);
    expect(flag[0]).toBe(0);
    const second = client.askLatest(matte('2'), { stopsEarlier: true });
    expect(flag[0]).toBe(1);
    reply({ id: 1, ok: false, error: { code: 'work/stopped', message: 'Stopped.', details: {} } });
    expect(await first).toBeNull();
    await tick();
    expect(new Int32Array(sent[1].stop as SharedArrayBuffer)[0]).toBe(0);
    done(2, 'newest');
    expect(await second).toBe('newest');
  });
  it('lets work run on that shows something on the way', async () => {
    const { worker, sent } = fakeWorker();
    const client = createCoreClient(worker);
    void client.askLatest(matte('1'));
    void client.askLatest(matte('2'));
    expect(sent[0].stop).toBeUndefined();
  });
});

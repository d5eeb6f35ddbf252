import { paths } from '../../contract/paths';
import type { BrandView, DeliveryView, MarkCard, MarkView, TakenIn } from '../../contract/views';
import { seededRandom } from '../../core/seededRandom';
import { createOwnCluster } from './ownCluster';
import { drawMark, onGround, pngOf, ring } from './pictures';
import { startServer, stopServer } from './testServer';
import { until } from './until';

/** What a mark is known to be: what was acknowledged, and what may have been stored though nobody was told. */
interface KnownMark {
  readonly id: string;
  turn: number;
  /** The turns before that one, to which undo leads, and those after it, to which redo leads. */
  past: readonly number[];
  future: readonly number[];
  name: string;
  isRemoved: boolean;
  /** A change under way when something was killed. */
  maybe: Partial<Pick<KnownMark, 'turn' | 'past' | 'future' | 'name' | 'isRemoved'>> | null;
}

export interface KillReport {
  readonly kills: { server: number; database: number };
  readonly acknowledged: number;
  readonly deliveries: { ready: number; failed: number };
  /** Why deliveries failed. */
  readonly reasons: Readonly<Record<string, number>>;
  /** Everything that was not as it must be. */
  readonly faults: readonly string[];
}

const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));

/** Changes that are acknowledged between one kill and the next, at least. */
const LEAST_CHANGES = 4;

/**
 * Changes marks without a pause while the server or its database is killed at random moments, and looks after each time
 * whether everything that was acknowledged is there, nothing is half there, and every job comes to an end.
 */
export async function killRun(
  times: number,
  seed: number,
  say: (line: string) => void = () => {},
): Promise<KillReport> {
  const random = seededRandom(seed);
  const cluster = await createOwnCluster(`kills-${seed}`);
  let server = await startServer(cluster.config);
  const faults: string[] = [];
  const kills = { server: 0, database: 0 };
  /** Two at once work on marks of their own, so that each knows what it was told. */
  const marks: [KnownMark[], KnownMark[]] = [[], []];
  const deliveries = new Set<string>();
  let acknowledged = 0;
  let shade = 0;

  const ask = async <T>(method: string, path: string, body?: object | Uint8Array): Promise<T> => {
    const isBytes = body instanceof Uint8Array;
    const response = await fetch(server.url + path, {
      method,
      body: isBytes ? (body as Uint8Array<ArrayBuffer>) : body && JSON.stringify(body),
      headers: body && !isBytes ? { 'content-type': 'application/json' } : {},
      signal: AbortSignal.timeout(30_000),
    });
    if (response.status >= 400) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
    return (response.status === 204 ? undefined : await response.json()) as T;
  };
  const brand = await ask<BrandView>('POST', paths.brands, { name: 'Kills', palette: [] });

  async function takeIn(): Promise<KnownMark> {
    const ground = [250, 255 - (++shade % 200), 240 - Math.floor(shade / 200)] as const;
    const png = await pngOf(onGround(drawMark(220, 200, ring(110, 100, 80, 50), [31, 90, 69]), ground));
    const name = `Mark ${shade}`;
    const { mark } = await ask<TakenIn>(
      'POST',
      `${paths.brandMarks(brand.id)}?name=${encodeURIComponent(name)}.png`,
      png,
    );
    return { id: mark.id, turn: 0, past: [], future: [], name, isRemoved: false, maybe: null };
  }
  async function change(known: KnownMark): Promise<void> {
    const dice = random();
    if (known.isRemoved || dice < 0.1) {
      known.maybe = { isRemoved: !known.isRemoved };
      if (known.isRemoved) await ask('POST', paths.markReturn(known.id));
      else await ask('DELETE', paths.mark(known.id));
    } else {
      const mark = await ask<MarkView>('GET', paths.mark(known.id));
      if (dice < 0.3) {
        known.maybe = { name: `Name ${Math.floor(random() * 1e6)}` };
        await ask('PATCH', paths.mark(known.id), { basedOn: mark.details, name: known.maybe.name });
      } else if (dice < 0.5) {
        const { id } = await ask<DeliveryView>('POST', paths.markDeliveries(known.id), { basedOn: mark.revision });
        deliveries.add(id);
      } else if (dice < 0.7 && known.past.length > 0) {
        const past = known.past.slice(0, -1);
        known.maybe = { turn: known.past.at(-1) as number, past, future: [known.turn, ...known.future] };
        await ask('POST', paths.markStep(known.id, 'undo'), { basedOn: mark.revision });
      } else if (dice < 0.75 && known.future.length > 0) {
        const [turn, ...future] = known.future;
        known.maybe = { turn, past: [...known.past, known.turn], future };
        await ask('POST', paths.markStep(known.id, 'redo'), { basedOn: mark.revision });
      } else {
        const turn = Math.round(random() * 400) / 10;
        known.maybe = { turn, past: [...known.past, known.turn], future: [] };
        const stages = { ...mark.recipe.stages, crop: { ...mark.recipe.stages.crop, turn } };
        const recipe = { ...mark.recipe, stages };
        await ask('PUT', paths.markRecipe(known.id), { basedOn: mark.revision, why: 'turn', recipe });
      }
    }
    Object.assign(known, known.maybe);
    known.maybe = null;
  }

  /** Changes until something is killed under it. */
  async function work(own: KnownMark[], isOver: () => boolean): Promise<void> {
    while (!isOver()) {
      try {
        if (own.length < 3 || random() < 0.1) own.push(await takeIn());
        else await change(own[Math.floor(random() * own.length)]);
        acknowledged++;
      } catch {
        await sleep(20);
        // What was under way is settled by looking, once all is up again.
        while (!isOver()) await sleep(20);
      }
    }
  }

  async function check(): Promise<void> {
    const [cards, removed] = await Promise.all([
      ask<MarkCard[]>('GET', paths.brandMarks(brand.id)),
      ask<MarkCard[]>('GET', paths.brandRemoved(brand.id)),
    ]);
    for (const known of marks.flat()) {
      const isRemoved = removed.some((m) => m.id === known.id);
      if (!isRemoved && !cards.some((m) => m.id === known.id)) {
        faults.push(`${known.name} is lost`);
        continue;
      }
      const settle = <K extends 'turn' | 'name' | 'isRemoved'>(key: K, seen: KnownMark[K]) => {
        if (seen !== known[key] && seen !== known.maybe?.[key])
          faults.push(`${known.name}: ${key} is ${String(seen)}, acknowledged was ${String(known[key])}`);
        known[key] = seen;
      };
      settle('isRemoved', isRemoved);
      if (!isRemoved) {
        const mark = await ask<MarkView>('GET', paths.mark(known.id));
        const { turn } = mark.recipe.stages.crop;
        if (turn !== known.turn && turn === known.maybe?.turn) Object.assign(known, known.maybe);
        settle('turn', turn);
        if (mark.canUndo !== known.past.length > 0) faults.push(`${known.name}: undo is ${String(mark.canUndo)}`);
        settle('name', mark.name);
      }
      known.maybe = null;
    }
    for (const id of deliveries) {
      const answer = await fetch(server.url + paths.delivery(id));
      // Those of removed marks are out of sight.
      if (answer.status === 404) continue;
      const { state, files, fileCount } = (await answer.json()) as DeliveryView;
      if (state === 'ready' && files.length !== fileCount) faults.push(`delivery ${id} is ready and half there`);
    }
  }

  async function bringUp(what: 'server' | 'database'): Promise<void> {
    if (what === 'database') await cluster.start();
    else server = await startServer(cluster.config);
    await until(
      'readiness after a kill',
      () => fetch(server.url + paths.ready).catch(() => null),
      (answer) => answer?.status === 200,
    );
  }

  /** Files are asked for before every kill, of a mark that nobody changes or removes. */
  async function deliver({ id }: KnownMark): Promise<void> {
    const { revision } = await ask<MarkView>('GET', paths.mark(id));
    deliveries.add((await ask<DeliveryView>('POST', paths.markDeliveries(id), { basedOn: revision })).id);
  }

  try {
    const still = await takeIn();
    for (let k = 0; k < times; k++) {
      await deliver(still);
      let isOver = false;
      const working = marks.map((own) => work(own, () => isOver));
      // At any moment, but not before anything was acknowledged that could be lost, however slow the machine.
      const before = acknowledged;
      while (acknowledged < before + LEAST_CHANGES) await sleep(10);
      await sleep(random() * 1400);
      const what = random() < 0.5 ? 'server' : 'database';
      if (what === 'server') await stopServer(server, 'SIGKILL');
      else await cluster.kill();
      kills[what]++;
      isOver = true;
      await Promise.all(working);
      if (what === 'database' && server.child.exitCode !== null) {
        faults.push('the server ended with its database');
        server = await startServer(cluster.config);
      }
      await bringUp(what);
      await check();
      if ((k + 1) % 20 === 0) say(`${k + 1} kills, ${acknowledged} changes acknowledged, ${faults.length} faults`);
    }
    const ended = { ready: 0, failed: 0 };
    const reasons: Record<string, number> = {};
    for (const id of deliveries) {
      for (let tries = 0; ; tries++) {
        const answer = await fetch(server.url + paths.delivery(id));
        const delivery = answer.status === 404 ? null : ((await answer.json()) as DeliveryView);
        const state = delivery?.state ?? 'gone';
        if (state === 'failed') reasons[delivery?.problem ?? ''] = (reasons[delivery?.problem ?? ''] ?? 0) + 1;
        if (state === 'ready' || state === 'failed') ended[state]++;
        if (state !== 'waiting' && state !== 'making') break;
        if (tries > 1200) {
          faults.push(`delivery ${id} does not end`);
          break;
        }
        await sleep(100);
      }
    }
    return { kills, acknowledged, deliveries: ended, reasons, faults };
  } finally {
    await stopServer(server);
    await cluster.remove();
  }
}

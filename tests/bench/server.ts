// npm run bench -- --server: fifty people at once, the memory of the largest tasks, deliveries by one and two runners.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import sharp from 'sharp';
import { paths } from '../../contract/paths';
import type { BrandView, DeliveryView, ErrorBody, MarkCard, MarkView, TakenIn } from '../../contract/views';
import { readMemory } from '../support/fuzzRun';
import { quantile } from '../support/load';
import { ask } from '../support/ask';
import { createOwnCluster } from '../support/ownCluster';
import { drawMark, onGround, pngOf, ring } from '../support/pictures';
import { projectDir } from '../support/testDatabase';
import { type TestServer, startServer, stopServer } from '../support/testServer';

const PEOPLE = 50;
const SECONDS = Number(process.argv[2] ?? 60);
const say = (line: string) => process.stdout.write(`${line}\n`);
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));

const badge = (k: number) =>
  onGround(drawMark(1200, 1000, ring(600, 500, 480, 260), [31, 90, 69]), [255, 255 - k, 240]);

async function takeMarks(server: TestServer, count: number): Promise<BrandView> {
  const brand = await ask<BrandView>(server, 'POST', paths.brands, { name: `Load ${count}`, palette: [] });
  for (let k = 0; k < count; k++)
    await ask<TakenIn>(server, 'POST', `${paths.brandMarks(brand.id)}?name=mark-${k}.png`, await pngOf(badge(k)));
  return brand;
}

const ended = async (server: TestServer, ids: readonly string[]) => {
  const states = await Promise.all(ids.map((id) => ask<DeliveryView>(server, 'GET', paths.delivery(id))));
  return states.every((d) => d.state !== 'waiting' && d.state !== 'making') ? states : null;
};
async function waitFor(server: TestServer, ids: readonly string[]): Promise<DeliveryView[]> {
  for (;;) {
    const states = await ended(server, ids);
    if (states) return states;
    await sleep(100);
  }
}

/** Fifty people who list, open, look at pictures, and now and then change something or ask for files. */
async function crowd(server: TestServer): Promise<void> {
  const brand = await takeMarks(server, 24);
  const times: Record<string, number[]> = { list: [], open: [], picture: [], thumbnail: [], save: [], deliver: [] };
  const deliveries: string[] = [];
  let errors = 0;
  const until = Date.now() + SECONDS * 1000;
  const timed = async (what: string, method: string, path: string, body?: object) => {
    const begun = performance.now();
    const answer = await fetch(server.url + path, {
      method,
      body: body && JSON.stringify(body),
      headers: body ? { 'content-type': 'application/json' } : {},
    });
    const bytes = await answer.arrayBuffer();
    times[what].push(performance.now() - begun);
    // Two people on one mark: the second is told so.
    if (answer.status >= 400 && answer.status !== 409) errors++;
    return answer.status < 300 && answer.headers.get('content-type')?.includes('json')
      ? (JSON.parse(new TextDecoder().decode(bytes)) as unknown)
      : null;
  };
  const person = async (k: number) => {
    await sleep((k / PEOPLE) * 1000);
    while (Date.now() < until) {
      const cards = (await timed('list', 'GET', paths.brandMarks(brand.id))) as MarkCard[];
      const card = cards[Math.floor(Math.random() * cards.length)];
      await timed('thumbnail', 'GET', paths.markThumbnail(card.id, card.revision));
      const mark = (await timed('open', 'GET', paths.mark(card.id))) as MarkView;
      await timed('picture', 'GET', paths.markPicture(card.id, 'reduced'));
      if (Math.random() < 0.15) {
        const turn = Math.round(Math.random() * 100) / 10;
        const stages = { ...mark.recipe.stages, crop: { ...mark.recipe.stages.crop, turn } };
        await timed('save', 'PUT', paths.markRecipe(card.id), {
          basedOn: mark.revision,
          why: 'turn',
          recipe: { ...mark.recipe, stages },
        });
      }
      if (Math.random() < 0.05) {
        const made = (await timed('deliver', 'POST', paths.markDeliveries(card.id), {
          basedOn: mark.revision,
        })) as DeliveryView | null;
        if (made) deliveries.push(made.id);
      }
      await sleep(500 + Math.random() * 1500);
    }
  };
  await Promise.all(Array.from({ length: PEOPLE }, (_, k) => person(k)));
  const states = await waitFor(server, deliveries);
  say(
    `\n${PEOPLE} people for ${SECONDS} s: ${errors} errors, ${deliveries.length} deliveries, ` +
      `${states.filter((d) => d.state === 'ready').length} ready`,
  );
  for (const [what, all] of Object.entries(times))
    say(
      `  ${what.padEnd(10)} ${String(all.length).padStart(6)} times, median ${quantile(all, 0.5).toFixed(0)} ms, ` +
        `95 % under ${quantile(all, 0.95).toFixed(0)} ms`,
    );
}

/** The memory of the server while the largest tasks run that it takes. */
async function memory(server: TestServer): Promise<void> {
  const pid = server.child.pid as number;
  const brand = await ask<BrandView>(server, 'POST', paths.brands, { name: 'Memory', palette: [] });
  const before = readMemory(pid);
  const watch = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
    let most = 0;
    const timer = setInterval(() => (most = Math.max(most, readMemory(pid))), 20);
    const begun = performance.now();
    try {
      return await work();
    } finally {
      clearInterval(timer);
      say(`  ${what}: ${((performance.now() - begun) / 1000).toFixed(1)} s, at most ${most} MB`);
    }
  };
  say(`\nMemory, ${before} MB before`);
  const wide = await sharp({ create: { width: 32_000, height: 3700, channels: 3, background: '#f4efe4' } })
    .composite([
      { input: { create: { width: 9000, height: 1800, channels: 3, background: '#1f5a45' } }, left: 9000, top: 900 },
    ])
    .png()
    .toBuffer();
  const { mark } = await watch(`taking in a PNG of 32000 × 3700 px, ${Math.round(wide.length / 1024)} kB`, () =>
    ask<TakenIn>(server, 'POST', `${paths.brandMarks(brand.id)}?name=wide.png`, wide),
  );
  await watch('its master', async () => (await fetch(server.url + paths.markMaster(mark.id))).arrayBuffer());
  const withLines = (pages: readonly number[]) => ({
    ...mark.recipe,
    files: {
      ...mark.recipe.files,
      lines: pages.map((widthPx, k) => ({
        ...mark.recipe.files.lines[0],
        id: `l${k}`,
        size: { id: 'width', params: { widthPx, paddingPct: 0 } },
      })),
    },
  });
  const saved = await ask<MarkView>(server, 'PUT', paths.markRecipe(mark.id), {
    basedOn: mark.revision,
    why: 'large',
    recipe: withLines([16_000, 14_000]),
  });
  const made = await ask<DeliveryView>(server, 'POST', paths.markDeliveries(mark.id), { basedOn: saved.revision });
  const [done] = await watch('files of 16000 and 14000 px', () => waitFor(server, [made.id]));
  say(`    ${done.state}${done.problem ? `: ${done.problem}` : ''}`);
  const box = {
    ...saved.recipe.files.lines[0],
    size: { id: 'box', params: { widthPx: 16384, heightPx: 16384, paddingPct: 0 } },
  };
  const asked = await ask<MarkView>(server, 'PUT', paths.markRecipe(mark.id), {
    basedOn: saved.revision,
    why: 'too large',
    recipe: { ...saved.recipe, files: { ...saved.recipe.files, lines: [box] } },
  });
  const refused = await fetch(server.url + paths.markDeliveries(mark.id), {
    method: 'POST',
    body: JSON.stringify({ basedOn: asked.revision }),
    headers: { 'content-type': 'application/json' },
  });
  say(`  16384 × 16384 px: ${refused.status} ${((await refused.json()) as ErrorBody).error.message}`);
  await sleep(65_000);
  say(`  a minute later: ${readMemory(pid)} MB`);
}

/** Deliveries a minute by one runner and by two. */
async function runners(server: TestServer, database: object): Promise<void> {
  const brand = await takeMarks(server, 16);
  const cards = await ask<MarkCard[]>(server, 'GET', paths.brandMarks(brand.id));
  const rate = async () => {
    const begun = Date.now();
    const ids: string[] = [];
    for (const card of [...cards, ...cards])
      ids.push((await ask<DeliveryView>(server, 'POST', paths.markDeliveries(card.id), { basedOn: card.revision })).id);
    await waitFor(server, ids);
    return ids.length / ((Date.now() - begun) / 60_000);
  };
  const one = await rate();
  const second = spawn(process.execPath, [join(projectDir, 'dist/server/worker.mjs')], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, TASSEL_DATABASE: JSON.stringify(database), TASSEL_LOG: 'error' },
  });
  await new Promise((r) => second.stdout.once('data', r));
  const two = await rate();
  second.kill('SIGTERM');
  await new Promise((r) => second.once('exit', r));
  say(
    `\nDeliveries of three files a minute: ${one.toFixed(0)} by one runner, ` +
      `${two.toFixed(0)} by two (${(two / one).toFixed(2)} times)`,
  );
}

const cluster = await createOwnCluster('bench');
const server = await startServer(cluster.config);
try {
  await crowd(server);
  await runners(server, cluster.config);
  await memory(server);
} finally {
  await stopServer(server);
  await cluster.remove();
}

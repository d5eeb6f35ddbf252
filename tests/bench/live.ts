// npm run bench -- --live: live files from one server, beside a bare static file of the same size.
import { createReadStream, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { Agent, createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { spawn } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { LiveView } from '../../contract/live';
import { paths } from '../../contract/paths';
import type { BrandView, TakenIn } from '../../contract/views';
import { ask } from '../support/ask';
import { quantile } from '../support/load';
import { createOwnCluster } from '../support/ownCluster';
import { drawMark, pngOf, ring } from '../support/pictures';
import { startServer, stopServer } from '../support/testServer';

const SECONDS = 8;
const CONNECTIONS = 32;
const say = (line: string) => process.stdout.write(`${line}\n`);

interface Load {
  readonly url: string;
  readonly seconds: number;
  readonly etag: string | null;
}
interface Result {
  readonly perSecond: number;
  readonly p50: number;
  readonly p99: number;
  readonly errors: number;
}

/** Asks for one address on many connections, one request after another on each. */
async function pull({ url, seconds, etag }: Load): Promise<Result> {
  const agent = new Agent({ keepAlive: true, maxSockets: CONNECTIONS });
  const times: number[] = [];
  let errors = 0;
  const wanted = etag ? 304 : 200;
  const once = () =>
    new Promise<void>((resolve) => {
      const begun = performance.now();
      const sent = request(url, { agent, headers: etag ? { 'if-none-match': etag } : {} }, (answer) => {
        if (answer.statusCode !== wanted) errors++;
        answer.resume();
        answer.on('end', () => {
          times.push(performance.now() - begun);
          resolve();
        });
      });
      sent.on('error', () => {
        errors++;
        resolve();
      });
      sent.end();
    });
  const until = Date.now() + seconds * 1000;
  const line = async () => {
    while (Date.now() < until) await once();
  };
  await Promise.all(Array.from({ length: CONNECTIONS }, line));
  agent.destroy();
  times.sort((a, b) => a - b);
  return { perSecond: times.length / seconds, p50: quantile(times, 0.5), p99: quantile(times, 0.99), errors };
}

/** In a process of its own, so that who asks does not hold up who answers. */
const inProcess = (load: Load): Promise<Result> =>
  new Promise((resolve, reject) => {
    const own = fileURLToPath(import.meta.url);
    const child = spawn(process.execPath, ['--import', 'tsx', own, JSON.stringify(load)], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let text = '';
    child.stdout.on('data', (chunk: Buffer) => (text += chunk.toString()));
    child.once('error', reject);
    child.once('exit', () => resolve(JSON.parse(text) as Result));
  });

async function main(): Promise<void> {
  const cluster = await createOwnCluster('bench-live');
  const server = await startServer(cluster.config);
  const folder = mkdtempSync(join(tmpdir(), 'tassel-live-'));
  const brand = await ask<BrandView>(server, 'POST', paths.brands, { name: 'Live', palette: [] });
  const png = await pngOf(drawMark(900, 900, ring(450, 450, 430, 260), [31, 90, 69]));
  const { mark } = await ask<TakenIn>(server, 'POST', `${paths.brandMarks(brand.id)}?name=badge.png`, png);
  const lineId = mark.recipe.files.lines[0].id;
  const { path } = await ask<LiveView>(server, 'POST', paths.allLive, { markId: mark.id, lineId });
  const url = server.url + path;
  let answer = await fetch(url);
  for (; answer.status !== 200; answer = await fetch(url)) await new Promise((r) => setTimeout(r, 100));
  const bytes = new Uint8Array(await answer.arrayBuffer());
  const etag = answer.headers.get('etag') as string;
  const file = join(folder, 'badge.png');
  writeFileSync(file, bytes);
  const { size } = statSync(file);
  const bare = createServer((_, response) => {
    response.writeHead(200, { 'content-type': 'image/png', 'content-length': size });
    createReadStream(file).pipe(response);
  });
  await new Promise<void>((r) => bare.listen(0, '127.0.0.1', r));
  const bareUrl = `http://127.0.0.1:${(bare.address() as AddressInfo).port}/`;
  try {
    say(`A live file of ${bytes.length} bytes, ${CONNECTIONS} connections, ${SECONDS} s each`);
    const rows: [string, Load][] = [
      ['bare static file', { url: bareUrl, seconds: SECONDS, etag: null }],
      ['live, whole', { url, seconds: SECONDS, etag: null }],
      ['live, still the newest', { url, seconds: SECONDS, etag }],
    ];
    let base = 0;
    for (const [name, load] of rows) {
      const { perSecond, p50, p99, errors } = await inProcess(load);
      base ||= perSecond;
      say(
        `${name.padEnd(26)}${Math.round(perSecond)} a second, ${(perSecond / base).toFixed(2)} of bare, ` +
          `${p50.toFixed(1)} ms, 99 % in ${p99.toFixed(1)} ms, ${errors} errors`,
      );
    }
  } finally {
    bare.close();
    rmSync(folder, { recursive: true });
    await stopServer(server);
    await cluster.remove();
  }
}

const [order] = process.argv.slice(2);
if (order?.startsWith('{')) process.stdout.write(JSON.stringify(await pull(JSON.parse(order) as Load)));
else await main();

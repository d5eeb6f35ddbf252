import { readFileSync } from 'node:fs';
import type pg from 'pg';
import sharp from 'sharp';
import { paths } from '../../contract/paths';
import type { BrandView, ErrorBody, MarkView, TakenIn } from '../../contract/views';
import { readRecipe } from '../../core/recipe/recipe';
import { seededRandom } from '../../core/seededRandom';
import { type Random, oddRecipe } from './oddRecipes';
import { drawMark, either, disc, jpegOf, onGround, pngOf, ring } from './pictures';
import { type TestServer, startServer, stopServer } from './testServer';

export interface FuzzReport {
  readonly inputs: { files: number; recipes: number; bodies: number };
  /** How many were answered with which status. */
  readonly statuses: Readonly<Record<string, number>>;
  readonly slowestMs: number;
  readonly faults: readonly string[];
  /** Memory of the server when it had warmed up and at the end, MB. */
  readonly memoryMb: readonly [before: number, after: number];
}

/** On a busy machine; an answer that takes longer is a fault. */
const MOST_MS = 60_000;
const pick = <T>(random: Random, all: readonly T[]): T => all[Math.floor(random() * all.length)];

/** Small files of every kind that is taken in, made by our own code. */
async function corpus(): Promise<[name: string, bytes: Uint8Array][]> {
  const mark = drawMark(90, 70, either(ring(40, 35, 30, 12), disc(78, 12, 7)), [31, 90, 69]);
  const badge = onGround(mark, [244, 239, 228]);
  const raw = { raw: { width: 90, height: 70, channels: 4 as const } };
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="70" viewBox="0 0 90 70"><defs></defs>' +
    '<g transform="translate(3 4) scale(.9)"><path fill="#1f5a45" fill-rule="evenodd" ' +
    'd="M10 10h60v40h-60zM20 20h20v10h-20z"/>' +
    '<circle cx="70" cy="50" r="9" fill="rgb(200, 20, 30)"/></g></svg>';
  return [
    ['a.png', await pngOf(badge)],
    ['b.png', await pngOf(mark)],
    ['c.jpg', await jpegOf(badge)],
    ['d.webp', await sharp(mark.data, raw).webp({ lossless: true }).toBuffer()],
    ['e.tiff', await sharp(mark.data, raw).tiff({ compression: 'lzw' }).toBuffer()],
    [
      'f.jpg',
      await sharp(badge.data, raw)
        .removeAlpha()
        .withExif({ IFD0: { DateTime: 'never' } })
        .jpeg({ progressive: true })
        .toBuffer(),
    ],
    ['g.svg', new TextEncoder().encode(svg)],
  ];
}

/** A copy with bytes changed, cut off, doubled or moved. */
function mutate(random: Random, bytes: Uint8Array): Uint8Array {
  let out = Uint8Array.from(bytes);
  const at = () => Math.floor(random() * out.length);
  for (let n = 1 + Math.floor(random() * 6); n > 0 && out.length > 0; n--) {
    const dice = random();
    if (dice < 0.5) out[at()] = Math.floor(random() * 256);
    else if (dice < 0.65) out.set([0xff, 0xff, 0xff, 0x7f].slice(0, Math.min(4, out.length)), Math.max(0, at() - 4));
    else if (dice < 0.75) out = out.subarray(0, at());
    else if (dice < 0.9) out.copyWithin(at(), at(), Math.min(out.length, at() + 64));
    else out = Uint8Array.from([...out.subarray(0, at()), ...out.subarray(at())]);
  }
  return out;
}

const strange = [
  '\u0000',
  '\ud800',
  '\u202e',
  '"',
  '\\',
  'null',
  '🜁'.repeat(200),
  '../../etc',
  "'; drop table mark; --",
  'x'.repeat(5000),
];

/** JSON as text with something wrong in it. */
function mutateJson(random: Random, value: unknown): string {
  const dice = random();
  const text = JSON.stringify(value);
  if (dice < 0.3) return new TextDecoder().decode(mutate(random, new TextEncoder().encode(text)));
  if (dice < 0.5) return text.replace(/"[^"]*"/g, (t) => (random() < 0.15 ? JSON.stringify(pick(random, strange)) : t));
  if (dice < 0.8)
    return text.replace(/-?\d+(\.\d+)?/g, (t) =>
      random() < 0.2 ? pick(random, ['1e308', '-1', '1e-320', '99999999999999999999', 'null', '{}']) : t,
    );
  return `${'{"a":'.repeat(Math.floor(random() * 9000))}1`;
}

/**
 * Sends changed files, odd recipes and odd bodies to a server of its own until the time is over, and looks after every
 * hundred whether a known mark's master is still the same to the byte.
 * @param restMs  how long the server rests before its memory is looked at: idle threads end after a minute
 */
export async function fuzzRun(
  database: pg.ClientConfig,
  mostMs: number,
  seed: number,
  restMs = 0,
): Promise<FuzzReport> {
  const random = seededRandom(seed);
  const server: TestServer = await startServer(database);
  const files = await corpus();
  const inputs = { files: 0, recipes: 0, bodies: 0 };
  const statuses: Record<string, number> = {};
  const faults: string[] = [];
  let slowestMs = 0;

  const send = async (
    what: string,
    method: string,
    path: string,
    body?: Uint8Array | string,
  ): Promise<Response | null> => {
    const begun = performance.now();
    try {
      const answer = await fetch(server.url + path, {
        method,
        body: body as Uint8Array<ArrayBuffer> | string | undefined,
        headers: typeof body === 'string' ? { 'content-type': 'application/json' } : {},
        signal: AbortSignal.timeout(MOST_MS),
      });
      statuses[answer.status] = (statuses[answer.status] ?? 0) + 1;
      if (answer.status >= 500) faults.push(`${what}: ${answer.status} ${(await answer.text()).slice(0, 200)}`);
      return answer;
    } catch (error) {
      faults.push(`${what}: ${(error as Error).message}`);
      return null;
    } finally {
      slowestMs = Math.max(slowestMs, performance.now() - begun);
    }
  };
  const json = async <T>(method: string, path: string, body?: object | Uint8Array): Promise<T> =>
    (await (
      await send('known', method, path, body instanceof Uint8Array ? body : body && JSON.stringify(body))
    )?.json()) as T;

  const brand = await json<BrandView>('POST', paths.brands, { name: `Fuzz ${seed}`, palette: [] });
  const take = async (k: number) =>
    (await json<TakenIn>('POST', `${paths.brandMarks(brand.id)}?name=${files[k][0]}`, files[k][1])).mark;
  const known = await take(0);
  let changed = await take(2);
  // Asked for by a fresh thread each time: a kept picture would say nothing, so its row is forgotten before.
  const { Client } = (await import('pg')).default;
  const client = new Client(database);
  await client.connect();
  const master = async (): Promise<Buffer> => {
    await client.query('delete from picture');
    const answer = await send('master', 'GET', paths.markMaster(known.id));
    return answer ? Buffer.from(await answer.arrayBuffer()) : Buffer.alloc(0);
  };
  const before = await master();
  const memory = () => readMemory(server.child.pid as number);
  const rest = () => new Promise((r) => setTimeout(r, restMs));

  const oneFile = async () => {
    inputs.files++;
    const [name, bytes] = pick(random, files);
    const own = random() < 0.1 ? pick(random, strange.slice(2)) + name : `${inputs.files}-${name}`;
    const answer = await send(
      `file ${inputs.files} of ${name}`,
      'POST',
      `${paths.brandMarks(brand.id)}?name=${encodeURIComponent(own)}`,
      mutate(random, bytes),
    );
    if (!answer || answer.status < 300) return;
    const { error } = (await answer.json()) as ErrorBody;
    if (/node_modules|\bat .*\.m?js|Vips|failOn|corrupt header/.test(error.message))
      faults.push(`${name} is told: ${error.message}`);
  };
  const oneRecipe = async () => {
    inputs.recipes++;
    const recipe = oddRecipe(random, changed.recipe);
    const body = JSON.stringify({ basedOn: changed.revision, why: 'odd', recipe });
    const answer = await send(`recipe ${inputs.recipes}`, 'PUT', paths.markRecipe(changed.id), body);
    if (answer?.status !== 200) return;
    changed = (await answer.json()) as MarkView;
    // What is stored can be read again, and its picture be made or refused.
    readRecipe(changed.recipe);
    if (random() < 0.5)
      await send(`picture of recipe ${inputs.recipes}`, 'GET', paths.markThumbnail(changed.id, changed.revision));
    if (random() < 0.2)
      await send(`master of recipe ${inputs.recipes}`, 'GET', paths.markMaster(changed.id, changed.revision));
    if (random() < 0.05)
      await send(
        `delivery of recipe ${inputs.recipes}`,
        'POST',
        paths.markDeliveries(changed.id),
        JSON.stringify({ basedOn: changed.revision }),
      );
  };
  const oneBody = async () => {
    inputs.bodies++;
    const nobody = '00000000-0000-4000-8000-000000000000';
    const id = pick(random, [known.id, nobody, pick(random, strange.slice(2))]);
    const routes: [string, string, object][] = [
      ['POST', paths.brands, { name: `B ${inputs.bodies}`, palette: [{ name: 'a', hex: '#102030' }] }],
      ['PATCH', paths.brand(brand.id), { basedOn: 1, palette: [{ name: 'a', hex: '#102030' }] }],
      ['PATCH', paths.mark(encodeURIComponent(id)), { basedOn: 1, name: 'n', state: 'working' }],
      ['POST', paths.markStep(encodeURIComponent(id), 'undo'), { basedOn: known.revision }],
      ['POST', paths.markSiblings(nobody), { basedOn: 1, marks: [{ name: 'x', recipe: known.recipe }] }],
      [
        'POST',
        paths.brandMade(brand.id),
        {
          name: 'D',
          colour: '#102030',
          drawn: {
            strokes: [
              [
                [1, 2, 0.5],
                [30, 40, 0.5],
              ],
            ],
            pen: { width: 4, thinning: 0.5, smoothing: 0.5, bySpeed: true },
          },
        },
      ],
      [
        'POST',
        paths.brandMade(brand.id),
        {
          name: 'T',
          colour: '#102030',
          typed: { lines: ['Ab'], typeface: 'caveat', sizePx: 90, spacing: 0, lineHeight: 1.2, align: 'left' },
        },
      ],
      ['POST', paths.markDeliveries(encodeURIComponent(id)), { basedOn: known.revision }],
      ['GET', `${paths.brandDeliveries(brand.id)}?mark=${encodeURIComponent(pick(random, strange.slice(2)))}`, {}],
    ];
    const [method, path, body] = pick(random, routes);
    await send(
      `body ${inputs.bodies} to ${method} ${path}`,
      method,
      path,
      method === 'GET' ? undefined : mutateJson(random, body),
    );
  };

  const until = Date.now() + mostMs;
  const count = () => inputs.files + inputs.recipes + inputs.bodies;
  let warm: number | null = null;
  try {
    while (Date.now() < until && server.child.exitCode === null) {
      await Promise.all(
        Array.from({ length: 8 }, async () => {
          for (let k = 0; k < 12; k++) await pick(random, [oneFile, oneBody, oneBody])();
        }).concat([
          (async () => {
            for (let k = 0; k < 25; k++) await oneRecipe();
          })(),
        ]),
      );
      if (Buffer.compare(await master(), before) !== 0)
        faults.push(`the known mark is another one after ${count()} inputs`);
      if (warm === null) {
        await rest();
        warm = memory();
      }
    }
    if (server.child.exitCode !== null) faults.push(`the server ended after ${count()} inputs`);
    return {
      inputs,
      statuses,
      slowestMs: Math.round(slowestMs),
      faults,
      memoryMb: [warm ?? memory(), await rest().then(memory)],
    };
  } finally {
    await client.end();
    await stopServer(server);
  }
}

/** What a process holds in memory, MB. */
export function readMemory(pid: number): number {
  const text = readFileSync(`/proc/${pid}/status`, 'utf8');
  return Math.round(Number(/VmRSS:\s+(\d+)/.exec(text)?.[1] ?? 0) / 1024);
}

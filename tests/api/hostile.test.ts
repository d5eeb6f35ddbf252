import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, MarkView } from '../../contract/views';
import { seededRandom } from '../../core/seededRandom';
import { drawMark, jpegOf, onGround, pngOf, ring } from '../support/pictures';
import { type TestApp, createTestApp } from '../support/testApp';

interface Trouble {
  error: { code: string; message: string };
}

let app: TestApp;
let brand: BrandView;
const mark = drawMark(160, 140, ring(80, 70, 60, 36), [31, 90, 69]);
const badge = onGround(mark, [244, 239, 228]);
const upload = (bytes: Uint8Array, name: string) =>
  app.call('POST', `${paths.brandMarks(brand.id)}?name=${encodeURIComponent(name)}`, bytes);
const count = async () => (await app.json<MarkView[]>('GET', paths.brandMarks(brand.id))).length;

beforeAll(async () => {
  app = await createTestApp();
  brand = await app.addBrand();
});
afterAll(() => app?.close());

// A PNG header that promises far more than a picture should hold; the check sums are right.
async function withSize(width: number, height: number): Promise<Uint8Array> {
  const { crc32 } = await import('node:zlib');
  const bytes = Uint8Array.from(await pngOf(badge));
  const view = new DataView(bytes.buffer);
  view.setUint32(16, width);
  view.setUint32(20, height);
  view.setUint32(29, crc32(bytes.subarray(12, 29)));
  return bytes;
}

describe('an upload that is not what it seems', () => {
  it('is refused or taken in, but never breaks anything, whichever bytes of a picture are wrong', async () => {
    const random = seededRandom(41);
    const sources: [string, Uint8Array][] = [
      ['m.png', await pngOf(badge)],
      ['m.jpg', await jpegOf(badge)],
    ];
    for (let k = 0; k < 24; k++) {
      const [name, whole] = sources[k % 2];
      const bytes = Uint8Array.from(whole);
      for (let n = 0; n < 1 + k; n++) bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
      const own = `${k}-${name}`;
      const answer = await upload(k % 3 === 0 ? bytes.subarray(0, Math.floor(random() * bytes.length)) : bytes, own);
      expect([200, 201, 413, 422], `${own} gave ${answer.status}`).toContain(answer.status);
      if (answer.status < 300) continue;
      const { error } = (await answer.json()) as Trouble;
      expect(error.code).toMatch(/^intake\//);
      expect(error.message).toContain(own);
      expect(error.message).not.toMatch(/node_modules|at .*\.ts|\n/);
    }
    // And a good one after all of them is taken in as ever.
    expect((await upload(await pngOf(onGround(mark, [250, 250, 250])), 'good.png')).status).toBeLessThan(300);
  });
  it('with a header that promises thousands of megapixels is refused before they are unpacked', async () => {
    const began = performance.now();
    const answer = await upload(await withSize(60000, 60000), 'vast.png');
    expect(answer.status).toBe(413);
    expect(((await answer.json()) as Trouble).error.message).toMatch(/vast\.png has 60000 × 60000 = 3600 megapixels/);
    expect(performance.now() - began).toBeLessThan(30_000);
    const long = await upload(await withSize(40000, 900), 'banner.png');
    expect(long.status).toBe(413);
    expect(((await long.json()) as Trouble).error.message).toMatch(
      /banner\.png is 40000 × 900 px; the most is 32000 px a side/,
    );
  });
  it('with fewer rows than its header says is called damaged', async () => {
    const answer = await upload(await withSize(160, 150), 'short.png');
    expect(answer.status).toBe(422);
    expect(((await answer.json()) as Trouble).error).toMatchObject({
      code: 'intake/damaged',
      message: expect.stringContaining('short.png'),
    });
  });
  it.each([
    ['page.html', '<!doctype html><script>alert(1)</script>'],
    ['logo.svg', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'],
    ['mark.pdf', '%PDF-1.7\n1 0 obj'],
    ['mark.gif', 'GIF89a\u0001\u0000\u0001\u0000'],
    ['run.exe', 'MZ\u0090\u0000'],
    ['archive.zip', 'PK\u0003\u0004'],
  ])('%s is of no kind that is taken in, and nothing of it stays', async (name, text) => {
    const before = await count();
    const answer = await upload(new TextEncoder().encode(text), name);
    expect(answer.status).toBe(422);
    expect(((await answer.json()) as Trouble).error.message).toContain(name);
    expect(await count()).toBe(before);
  });
  it.each([
    ['..\\..\\secret\u0000.png', 'secret.png'],
    [`${'a'.repeat(400)}.png`, 'a'.repeat(200)],
    ['<img src=x onerror=alert(1)>.png', '<img src=x onerror=alert(1)>.png'],
    ['\u0007', 'unnamed file'],
  ])('a file name like %j becomes a plain one', async (given, plain) => {
    const picture = onGround(mark, [200, 210, 200 + (given.length % 50)]);
    const { mark: taken } = (await (await upload(await pngOf(picture), given)).json()) as {
      mark?: MarkView;
    } & Partial<Trouble>;
    expect(taken?.originalName).toBe(plain);
  });
});

describe('a request that makes no sense', () => {
  const NOBODY = '00000000-0000-4000-8000-000000000000';
  it.each([
    ['GET', paths.mark(NOBODY)],
    ['PATCH', paths.mark(NOBODY)],
    ['DELETE', paths.mark(NOBODY)],
    ['POST', paths.markStep(NOBODY, 'undo')],
    ['GET', paths.markOriginal(NOBODY)],
    ['GET', paths.markPicture(NOBODY, 'working')],
    ['GET', paths.markMaster(NOBODY, 1)],
    ['GET', paths.delivery(NOBODY)],
    ['GET', paths.deliveryZip(NOBODY)],
    ['POST', paths.deliveryCancel(NOBODY)],
    ['GET', paths.deliveryEvents(NOBODY)],
  ])('%s %s says that there is no such thing', async (method, path) => {
    const answer = await app.call(
      method,
      path,
      method === 'PATCH' ? { basedOn: 1, name: 'x' } : method === 'POST' ? { basedOn: 1 } : undefined,
    );
    expect(answer.status).toBe(404);
    expect(((await answer.json()) as Trouble).error.code).toBe('store/not-found');
  });
  it.each([['not-a-name'], ["1' or '1'='1"], ['%00'], ['..%2f..%2fetc']])(
    'an identifier like %s is no identifier',
    async (id) => {
      const answer = await app.call('GET', `/api/marks/${id}`);
      expect([400, 404]).toContain(answer.status);
      expect(((await answer.json()) as Trouble).error.message).not.toMatch(/syntax|uuid|select/i);
    },
  );
  it.each([['{'], ['[]'], ['null'], ['{"name":{"a":1}}'], ['{"name":""}'], [`{"name":"${'n'.repeat(5000)}"}`]])(
    'a body of %s is refused, with what is wrong, wherever one is expected',
    async (body) => {
      const bodies: [string, string][] = [
        ['POST', paths.brands],
        ['POST', paths.brandMade(brand.id)],
      ];
      for (const [method, path] of bodies) {
        const answer = await app.call(method, path, new TextEncoder().encode(body), {
          'content-type': 'application/json',
        });
        expect(answer.status, `${method} ${path}`).toBe(400);
        expect(((await answer.json()) as Trouble).error.message.length).toBeGreaterThan(10);
      }
    },
  );
});

it('every answer forbids scripts that the application did not bring, and any code made out of text', async () => {
  for (const path of [paths.brands, '/', `/api/marks/none`]) {
    const policy = (await app.call('GET', path)).headers.get('content-security-policy') ?? '';
    const scripts = /script-src ([^;]*)/.exec(policy)?.[1].split(' ');
    expect(scripts, path).toEqual(["'self'", "'wasm-unsafe-eval'"]);
    expect(policy).toContain("object-src 'none'");
    expect(policy).toContain("frame-ancestors 'none'");
  }
});

it('pages are cut off from others, which is what lets them share memory with their worker', async () => {
  const { headers } = await app.call('GET', '/');
  expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
  expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
});

import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { BrandView, DeliveryView, ErrorBody, MarkCard, MarkView, TakenIn } from '../../contract/views';
import { collectBlobs } from '../../server/store/blobs';
import { addBrand } from '../../server/store/brands';
import { withTransaction } from '../../server/store/db';
import { eraseOldMarks } from '../../server/store/marks';
import { watchLoop } from '../support/load';
import { drawMark, onGround, pngOf, ring } from '../support/pictures';
import { type TestApp, createTestApp } from '../support/testApp';
import { until } from '../support/until';

let app: TestApp;
let brand: BrandView;
let seed = 0;
beforeAll(async () => {
  app = await createTestApp();
  brand = await app.addBrand();
});
afterAll(() => app?.close());

/** A mark that no other test has: its ground's shade is its own. */
async function newMark(name = 'Badge'): Promise<MarkView> {
  const shade = ++seed;
  const picture = onGround(drawMark(160, 140, ring(80, 70, 60, 36), [31, 90, 69]), [250, 255 - shade, 240]);
  return (await app.takeIn(brand.id, await pngOf(picture), `${name} ${shade}.png`)).mark;
}
const read = (id: string) => app.json<MarkView>('GET', paths.mark(id));
const withTurn = (mark: MarkView, turn: number) => ({
  ...mark.recipe,
  stages: { ...mark.recipe.stages, crop: { ...mark.recipe.stages.crop, turn } },
});
const save = (mark: MarkView, turn: number) =>
  app.call('PUT', paths.markRecipe(mark.id), { basedOn: mark.revision, why: 'test', recipe: withTurn(mark, turn) });
const conflictOf = async (answer: Response) => {
  expect(answer.status).toBe(409);
  return ((await answer.json()) as ErrorBody).error.details.current as MarkView;
};
const blobCount = async () => Number((await app.db.pool.query('select count(*) from blob')).rows[0].count);

describe('two windows on one mark', () => {
  it('of saves at the same moment one wins, and the others are shown its state', async () => {
    const mark = await newMark();
    const answers = await Promise.all(Array.from({ length: 8 }, (_, k) => save(mark, k + 1)));
    expect(answers.filter((a) => a.status === 200)).toHaveLength(1);
    const stored = await read(mark.id);
    for (const answer of answers.filter((a) => a.status !== 200))
      expect(await conflictOf(answer)).toMatchObject({ revision: stored.revision, recipe: stored.recipe });
  });
  it('nobody undoes what he has not seen', async () => {
    const mark = await newMark();
    const saved = (await (await save(mark, 2)).json()) as MarkView;
    const stale = await app.call('POST', paths.markStep(mark.id, 'undo'), { basedOn: mark.revision });
    expect((await conflictOf(stale)).revision).toBe(saved.revision);
    expect((await read(mark.id)).recipe.stages.crop.turn).toBe(2);
    expect((await app.call('POST', paths.markStep(mark.id, 'undo'))).status).toBe(400);
  });
  it('a name or state is not written over unseen either, and does not get in the way of the recipe', async () => {
    const mark = await newMark();
    const [one, other] = await Promise.all(
      ['One', 'Other'].map((name) => app.call('PATCH', paths.mark(mark.id), { basedOn: mark.details, name })),
    );
    expect([one.status, other.status].sort()).toEqual([200, 409]);
    const stored = await read(mark.id);
    expect((await conflictOf(one.status === 409 ? one : other)).name).toBe(stored.name);
    expect((await save(mark, 1)).status).toBe(200);
  });
  it('nor is a palette', async () => {
    const own = await app.addBrand('Palette');
    const colour = (name: string) => ({ basedOn: own.edition, palette: [{ name, hex: '#102030' }] });
    const answers = await Promise.all(['a', 'b', 'c'].map((n) => app.call('PATCH', paths.brand(own.id), colour(n))));
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409]);
    const lost = answers.find((a) => a.status === 409) as Response;
    const { error } = (await lost.json()) as ErrorBody;
    const [stored] = (await app.json<BrandView[]>('GET', paths.brands)).filter((b) => b.id === own.id);
    expect(error.details.current).toEqual(stored);
  });
  it('siblings are taken from what was seen', async () => {
    const mark = await newMark();
    await save(mark, 3);
    const body = { basedOn: mark.revision, marks: [{ name: 'Part', recipe: mark.recipe }] };
    expect((await conflictOf(await app.call('POST', paths.markSiblings(mark.id), body))).revision).not.toBe(
      mark.revision,
    );
  });
});

describe('a removed mark', () => {
  const removed = () => app.json<MarkCard[]>('GET', paths.brandRemoved(brand.id));
  const listed = async (id: string) =>
    (await app.json<MarkCard[]>('GET', paths.brandMarks(brand.id))).some((m) => m.id === id);

  it('is out of sight, and comes back as it was', async () => {
    const mark = await newMark();
    await save(mark, 4);
    expect((await app.call('DELETE', paths.mark(mark.id))).status).toBe(204);
    expect([await listed(mark.id), (await app.call('GET', paths.mark(mark.id))).status]).toEqual([false, 404]);
    expect((await removed()).map((m) => m.id)).toContain(mark.id);
    expect((await app.call('DELETE', paths.mark(mark.id))).status).toBe(404);
    const back = await app.json<MarkView>('POST', paths.markReturn(mark.id));
    expect(back.recipe.stages.crop.turn).toBe(4);
    expect([await listed(mark.id), (await removed()).some((m) => m.id === mark.id)]).toEqual([true, false]);
  });
  it('does not keep its file from being taken in again, nor does that keep it from coming back', async () => {
    const png = await pngOf(onGround(drawMark(120, 120, ring(60, 60, 40, 20), [10, 20, 90]), [255, 254, 200]));
    const first = await app.takeIn(brand.id, png, 'again.png');
    await app.call('DELETE', paths.mark(first.mark.id));
    const second = await app.takeIn(brand.id, png, 'again.png');
    expect(second).toMatchObject({ isDuplicate: false });
    expect(second.mark.id).not.toBe(first.mark.id);
    expect((await app.call('POST', paths.markReturn(first.mark.id))).status).toBe(200);
    expect([await listed(first.mark.id), await listed(second.mark.id)]).toEqual([true, true]);
  });
  it('loses its bytes after thirty days, and not a day before', async () => {
    const before = await blobCount();
    const mark = await newMark();
    expect(await blobCount()).toBeGreaterThan(before);
    await app.call('DELETE', paths.mark(mark.id));
    const age = (days: number) =>
      app.db.pool.query('update mark set removed_at = now() - make_interval(days => $2) where id = $1', [
        mark.id,
        days,
      ]);
    await app.db.pool.query("update blob set touched_at = now() - interval '2 days'");
    await age(29);
    await eraseOldMarks(app.db.pool);
    await collectBlobs(app.db.pool);
    expect((await removed()).some((m) => m.id === mark.id)).toBe(true);
    expect((await app.call('POST', paths.markReturn(mark.id))).status).toBe(200);
    expect((await app.call('GET', paths.markOriginal(mark.id))).status).toBe(200);
    await app.call('DELETE', paths.mark(mark.id));
    await age(31);
    expect(await eraseOldMarks(app.db.pool)).toBe(1);
    await collectBlobs(app.db.pool);
    expect(await blobCount()).toBe(before);
  });
  it('for good is gone at once, with its files and pictures, and nothing of others with it', async () => {
    const other = await newMark('Other');
    await app.call('GET', paths.markThumbnail(other.id, other.revision));
    // Pictures that a job still makes of the other one would count as this one's.
    const looksLeft = async () => {
      const { rows } = await app.db.pool.query("select 1 from graphile_worker.jobs where task_identifier = 'lookAt'");
      return rows.length;
    };
    await expect.poll(looksLeft).toBe(0);
    const before = await blobCount();
    const mark = await newMark('Signature');
    await app.call('GET', paths.markThumbnail(mark.id, mark.revision));
    await app.call('GET', paths.markMaster(mark.id, mark.revision));
    const made = await app.json<DeliveryView>('POST', paths.markDeliveries(mark.id), { basedOn: mark.revision });
    await app.waitFor(made.id);
    expect((await app.call('DELETE', `${paths.mark(mark.id)}?forGood=1`)).status).toBe(204);
    expect(await blobCount()).toBe(before);
    expect((await app.call('GET', paths.deliveryZip(made.id))).status).toBe(404);
    expect((await app.call('GET', paths.markThumbnail(other.id, other.revision))).status).toBe(200);
  });
  it('a blob is not collected from under a mark that is just being stored', async () => {
    const png = await pngOf(onGround(drawMark(90, 90, ring(45, 45, 30, 10), [90, 20, 20]), [240, 240, 200]));
    const [taken] = await Promise.all([
      app.takeIn(brand.id, png, 'race.png'),
      ...Array.from({ length: 20 }, () => collectBlobs(app.db.pool)),
    ]);
    expect((await app.call('GET', paths.markOriginal(taken.mark.id))).status).toBe(200);
  });
});

describe('a request that PostgreSQL or the parser could not bear', () => {
  const post = (body: string, path = paths.brands) =>
    app.call('POST', path, new TextEncoder().encode(body), { 'content-type': 'application/json' });
  const deep = (n: number) => `${'['.repeat(n)}${']'.repeat(n)}`;
  it.each([
    ['NUL', '{"name":"a\\u0000b","palette":[]}', 'NUL'],
    ['half a surrogate pair', '{"name":"a\\ud800b","palette":[]}', 'surrogate'],
    ['half a pair in a name', '{"name":"x","\\udc00":[]}', 'surrogate'],
    ['20,000 deep', `{"name":"x","palette":${deep(20_000)}}`, 'nested'],
    ['no JSON', '{"name":', 'not JSON'],
    ['an empty body', '', 'not JSON'],
  ])('%s is refused with a reason', async (_, body, reason) => {
    const answer = await post(body);
    expect(answer.status).toBe(400);
    expect(((await answer.json()) as ErrorBody).error.message).toContain(reason);
  });
  it('a brand may come without a palette', async () => {
    const answer = await post('{"name":"Bare"}');
    expect([answer.status, ((await answer.json()) as BrandView).palette]).toEqual([201, []]);
  });
  it('in pieces without a length is ended at the limit, whatever it would come to', async () => {
    let sent = 0;
    const endless = new ReadableStream({
      pull(controller) {
        sent += 65_536;
        controller.enqueue(new TextEncoder().encode('"'.padEnd(65_536, 'x')));
      },
    });
    const answer = await app.raw(paths.brands, {
      method: 'POST',
      body: endless,
      duplex: 'half',
      headers: { host: 'localhost', 'content-type': 'application/json' },
    });
    expect(answer.status).toBe(400);
    expect(sent).toBeLessThan(2 * 1024 * 1024);
  });
});

describe('every answer', () => {
  it('forbids frames, other bases and forms to elsewhere, and names itself', async () => {
    const { headers } = await app.call('GET', paths.brands);
    const policy = headers.get('content-security-policy') ?? '';
    for (const rule of ["base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'"])
      expect(policy).toContain(rule);
    expect(headers.get('x-frame-options')).toBe('DENY');
    expect(headers.get('x-request-id')).toMatch(/^[0-9a-f]{12}$/);
  });
  it('of an unknown brand is 404', async () => {
    const nobody = '00000000-0000-4000-8000-000000000000';
    const lists = [paths.brandMarks, paths.brandRemoved, paths.brandGrounds, paths.brandDeliveries];
    for (const path of lists) expect((await app.call('GET', path(nobody))).status).toBe(404);
  });
  it('tells whether the server lives and whether it can serve', async () => {
    expect((await app.call('GET', paths.alive)).status).toBe(200);
    const ready = await app.call('GET', paths.ready);
    expect(ready.status).toBe(200);
    expect(await ready.json()).toMatchObject({ isReady: true, database: true, queue: { isRunning: true } });
  });
});

describe('looking at a mark', () => {
  const stateOf = async () => {
    const { rows } = await app.db.pool.query(
      'select xmin::text, id from mark union all select xmin::text, id::text::uuid from brand order by 2',
    );
    return rows;
  };
  it('changes nothing of it, and its picture is made once', async () => {
    const mark = await newMark();
    const before = await stateOf();
    const first = await app.call('GET', paths.markThumbnail(mark.id, mark.revision));
    const bytes = Buffer.from(await first.arrayBuffer());
    expect(await stateOf()).toEqual(before);
    const pictures = async () => Number((await app.db.pool.query('select count(*) from picture')).rows[0].count);
    const count = await pictures();
    const again = await app.call('GET', paths.markThumbnail(mark.id, mark.revision));
    expect(Buffer.compare(Buffer.from(await again.arrayBuffer()), bytes)).toBe(0);
    expect(await pictures()).toBe(count);
    const known = { 'if-none-match': first.headers.get('etag') ?? '' };
    expect((await app.call('GET', paths.markThumbnail(mark.id), undefined, known)).status).toBe(304);
  });
  it('what was found belongs to the revision it was found in', async () => {
    const mark = await newMark();
    expect(mark.isLookedAt).toBe(true);
    const saved = (await (await save(mark, 7)).json()) as MarkView;
    expect(saved.isLookedAt).toBe(false);
    const seen = await until(
      'a look at the newest revision',
      () => read(mark.id),
      ({ isLookedAt }) => isLookedAt,
    );
    expect(seen).toMatchObject({ isLookedAt: true, revision: saved.revision });
    const undone = await app.json<MarkView>('POST', paths.markStep(mark.id, 'undo'), { basedOn: saved.revision });
    expect(undone).toMatchObject({ isLookedAt: true, findings: mark.findings });
  });
});

/** Of what is computed: 20 ms of 5 s on two cores. */
const MOST_HELD = 1 / 50;
describe('what takes long', () => {
  const photograph = {
    name: 'Odile',
    colour: '#102040',
    typed: { lines: ['Odile'], typeface: 'caveat', sizePx: 200, spacing: 0, lineHeight: 1.2, align: 'left' },
    capture: {
      paper: 'cream',
      lines: 'ruled',
      light: 'lamp',
      tiltDeg: 3,
      noise: 4,
      blurPx: 0.8,
      quality: 88,
      hasPlace: false,
      widthPx: 1600,
    },
  };
  it('is done in threads: the event loop is never held for more than a small share of it', async () => {
    await app.json('POST', paths.brandMade(brand.id), photograph);
    const mark = await newMark();
    const { heldMs, computedMs } = await watchLoop(async () => {
      const made = app.call('POST', paths.brandMade(brand.id), { ...photograph, name: 'Second', colour: '#401020' });
      const delivery = await app.json<DeliveryView>('POST', paths.markDeliveries(mark.id), { basedOn: mark.revision });
      await Promise.all([
        made,
        app.waitFor(delivery.id),
        ...Array.from({ length: 30 }, () => app.call('GET', paths.markMaster(mark.id))),
        newMark('While'),
      ]);
      expect((await made).status).toBe(201);
    });
    // What the threads computed, on the loop itself, would hold it for seconds.
    expect(heldMs).toBeLessThan(computedMs * MOST_HELD);
  });
  it('a page of more memory than there is is told before anything is made', async () => {
    const mark = await newMark();
    const line = (size: object) => ({
      // Somebody asks for this very size.
      ...{ ...mark.recipe.files.lines[0], fitted: undefined },
      size,
      format: { id: 'png', params: {} },
    });
    const big = { id: 'box', params: { widthPx: 16384, heightPx: 16384, paddingPct: 0 } };
    const saved = await app.json<MarkView>('PUT', paths.markRecipe(mark.id), {
      basedOn: mark.revision,
      why: 'big',
      recipe: { ...mark.recipe, files: { ...mark.recipe.files, lines: [line(big)] } },
    });
    const answer = await app.call('POST', paths.markDeliveries(mark.id), { basedOn: saved.revision });
    expect(answer.status).toBe(413);
    const { error } = (await answer.json()) as ErrorBody;
    expect(error.message).toMatch(/needs about 4 GB of memory; 1\.4 GB are allowed here/);
    expect(await app.json<DeliveryView[]>('GET', `${paths.brandDeliveries(brand.id)}?mark=${mark.id}`)).toEqual([]);
  });
  it('is ended when nobody waits for it any more', async () => {
    const gone = new AbortController();
    const run = app.raw(paths.brandMade(brand.id), {
      method: 'POST',
      body: JSON.stringify({ ...photograph, name: 'Left', capture: { ...photograph.capture, widthPx: 4000 } }),
      headers: { host: 'localhost', 'content-type': 'application/json' },
      signal: gone.signal,
    });
    await new Promise((r) => setTimeout(r, 300));
    expect(app.core.counts.running).toBe(1);
    gone.abort();
    expect((await run).status).toBe(409);
    await expect.poll(() => app.core.counts.running).toBe(0);
    // The thread that was ended is replaced.
    expect((await newMark()).revision).toBeGreaterThan(0);
  });
});

describe('a delivery', () => {
  const make = (mark: MarkView) =>
    app.json<DeliveryView>('POST', paths.markDeliveries(mark.id), { basedOn: mark.revision });
  it('that was begun too often ends as failed and can be tried again', async () => {
    const mark = await newMark();
    const { rows } = await app.db.pool.query(
      `with asked as (insert into delivery (mark_id, revision_id, file_count, zip_name, state)
         values ($1, $2, 3, 'x.zip', 'making') returning id)
       insert into delivery_part (delivery_id, position, mark_id, revision_id)
         select id, 0, $1, $2 from asked returning delivery_id as id`,
      [mark.id, mark.revision],
    );
    const abandoned = rows[0].id as string;
    const ended = await app.waitFor(abandoned);
    expect(ended).toMatchObject({ state: 'failed', problem: expect.stringContaining('Try again') });
    await app.json('POST', paths.deliveryAgain(abandoned));
    expect(await app.waitFor(abandoned)).toMatchObject({ state: 'ready', doneCount: 3 });
    // One that is ready stays what it is: its files of today are another.
    const today = await app.json<DeliveryView>('POST', paths.deliveryAgain(abandoned));
    expect(today.id).not.toBe(abandoned);
    expect(await app.waitFor(today.id)).toMatchObject({ state: 'ready' });
    expect(await app.json<DeliveryView>('GET', paths.delivery(abandoned))).toMatchObject({ state: 'ready' });
  });
  it('and its job are stored together or not at all', async () => {
    const mark = await newMark();
    const jobs = async () =>
      Number(
        (
          await app.db.pool.query('select count(*) from graphile_worker.jobs where task_identifier = $1', [
            'makeDelivery',
          ])
        ).rows[0].count,
      );
    await app.db.pool.query(
      `create function no_jobs() returns trigger as $$ begin raise exception 'no'; end $$ language plpgsql;
       create trigger no_jobs before insert on graphile_worker._private_jobs for each row execute function no_jobs()`,
    );
    const answer = await app.call('POST', paths.markDeliveries(mark.id), { basedOn: mark.revision });
    await app.db.pool.query('drop function no_jobs cascade');
    expect(answer.status).toBe(500);
    expect(await jobs()).toBe(0);
    expect(await app.json<DeliveryView[]>('GET', `${paths.brandDeliveries(brand.id)}?mark=${mark.id}`)).toEqual([]);
    expect(await app.waitFor((await make(mark)).id)).toMatchObject({ state: 'ready' });
  });
  it('under names of the widest letters has names that file systems take, and all of them', async () => {
    const mark = await newMark();
    const named = await app.json<MarkView>('PATCH', paths.mark(mark.id), { basedOn: 1, name: '印'.repeat(120) });
    const done = await app.waitFor((await make(named)).id);
    expect(done.state).toBe('ready');
    for (const { name } of done.files) expect(Buffer.byteLength(name)).toBeLessThanOrEqual(255);
    expect(new Set(done.files.map((f) => f.name)).size).toBe(3);
    expect(Buffer.byteLength(done.zipName)).toBeLessThanOrEqual(255);
    const zip = await app.call('GET', paths.deliveryZip(done.id));
    expect(zip.headers.get('content-disposition')).toContain('UTF-8');
    const { mark: pairs } = await app.json<TakenIn>(
      'POST',
      `${paths.brandMarks(brand.id)}?name=${encodeURIComponent('𐐷'.repeat(100))}.png`,
      await pngOf(onGround(drawMark(99, 99, ring(50, 50, 40, 20), [3, 2, 1]), [255, 250, 251])),
    );
    expect(await app.waitFor((await make(pairs)).id)).toMatchObject({ state: 'ready' });
  });
});

it('a transaction that PostgreSQL rolled back by itself is an error, not a success', async () => {
  const brandsNow = async () => (await app.json<BrandView[]>('GET', paths.brands)).length;
  const before = await brandsNow();
  const work = withTransaction(app.db.pool, async (tx) => {
    await addBrand(tx, 'Never there', []);
    await tx.query('select 1 / 0').catch(() => {});
    return 'done';
  });
  await expect(work).rejects.toThrow('ended with ROLLBACK');
  expect(await brandsNow()).toBe(before);
});

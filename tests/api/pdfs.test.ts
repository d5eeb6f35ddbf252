import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { ErrorBody, PageView, PdfView, TakenIn } from '../../contract/views';
import { decodePicture } from '../../codecs/decodePicture';
import { drawYearlyReview } from '../../demo/yearlyReview';
import { type TestApp, createTestApp } from '../support/testApp';

let app: TestApp;
let brandId: string;
let pdf: PdfView;
beforeAll(async () => {
  app = await createTestApp();
  brandId = (await app.addBrand()).id;
  const { bytes, fileName } = await drawYearlyReview();
  const response = await app.call('POST', `${paths.brandPdfs(brandId)}?name=${fileName}`, bytes);
  expect(response.status).toBe(201);
  pdf = (await response.json()) as PdfView;
});
afterAll(() => app.close());

const refused = async (response: Response) => ((await response.json()) as ErrorBody).error;
const pick = (change: object) =>
  app.call('POST', paths.brandPicked(brandId), {
    sha: pdf.sha,
    name: pdf.name,
    page: 2,
    markName: 'Partner',
    objects: [1, 2],
    picture: null,
    ...change,
  });

describe('a PDF file', () => {
  it('tells its pages, draws them with their text, and what can be picked on each', async () => {
    expect(pdf).toMatchObject({
      name: 'yearly-review.pdf',
      pageCount: 2,
      pages: [{ widthPt: 595, heightPt: 842 }, {}],
    });
    const page = (await (await app.call('GET', paths.pdfPage(pdf.sha, 2))).json()) as PageView;
    expect(page.objects).toHaveLength(7);
    expect(page.groups.map((g) => g.objects)).toEqual([[0], [1, 2, 3, 4, 5, 6]]);
    expect(page.pictures).toEqual([{ x: 56, y: 165, width: 483, height: 225, canTake: true }]);
    const drawn = await app.call('GET', `${paths.pdfPicture(pdf.sha, 2)}?longPx=842`);
    const { raster } = await decodePicture(new Uint8Array(await drawn.arrayBuffer()), 'page.png');
    expect([raster.width, raster.height]).toEqual([595, 842]);
  });

  it('gives marks of paths and of pixels, each pick its own, the same pick once', async () => {
    const first = await pick({});
    expect(first.status).toBe(201);
    const { mark } = (await first.json()) as TakenIn;
    expect(mark).toMatchObject({ name: 'Partner', source: 'drawing', originalName: 'yearly-review page 2.svg' });
    expect(await (await pick({})).json()).toMatchObject({ isDuplicate: true, mark: { id: mark.id } });
    expect((await pick({ objects: [3] })).status).toBe(201);
    expect(await (await pick({ objects: [], picture: 0 })).json()).toMatchObject({
      mark: { source: 'picture', width: 900 },
    });
  });

  it('refuses what is not there, each by name', async () => {
    expect((await refused(await pick({ page: 9 }))).message).toContain('there is no page 9');
    expect((await refused(await pick({ objects: [] }))).message).toContain('nothing was picked');
    expect((await refused(await pick({ objects: [], picture: 5 }))).message).toContain('no picture there');
    expect((await refused(await pick({ sha: 'f'.repeat(64) }))).code).toBe('store/not-found');
    expect((await app.call('GET', paths.pdfPage('..', 1))).status).toBe(404);
    const none = await app.call('POST', `${paths.brandPdfs(brandId)}?name=a.pdf`, new TextEncoder().encode('hello'));
    expect((await refused(none)).message).toBe('a.pdf is no PDF file.');
    const { bytes } = await drawYearlyReview();
    const asMark = await app.call('POST', `${paths.brandMarks(brandId)}?name=a.pdf`, bytes);
    expect((await refused(asMark)).message).toContain('picked from one of its pages');
    // A mark's own original is no PDF file, whatever its name in the request.
    const { mark } = (await (await pick({})).json()) as TakenIn;
    const blob = await app.call('GET', paths.markOriginal(mark.id));
    const sha = /"([0-9a-f]{64})"/.exec(blob.headers.get('etag') ?? '')?.[1] as string;
    expect((await app.call('GET', paths.pdfPage(sha, 1))).status).toBe(404);
  });
});

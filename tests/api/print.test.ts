import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paths } from '../../contract/paths';
import type { ErrorBody, LineView, MarkView, PdfView, PieceView } from '../../contract/views';
import { usualSurface } from '../../core/surfaces/renderSurface';
import { drawMooringAgreement } from '../../demo/mooringAgreement';
import { type TestApp, createTestApp } from '../support/testApp';

let app: TestApp;
let brandId: string;
let mark: MarkView;
beforeAll(async () => {
  app = await createTestApp();
  brandId = (await app.addBrand()).id;
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z" fill="#1f5a45"/></svg>';
  ({ mark } = await app.takeIn(brandId, new TextEncoder().encode(svg), 'badge.svg'));
});
afterAll(() => app.close());
const bytesOf = async (response: Response) => new Uint8Array(await response.arrayBuffer());

describe('a print sheet', () => {
  const order = {
    ...{ variant: 'colour', paper: '10x8in', mat: '11x14in:9.5x7.5in', ppi: 150, at: 'centre', inset: '8%' },
    ...{ size: '60%', groundId: null, format: 'png', name: '01 Harrowmere Badge 10x8in' },
  };
  const make = (change: object = {}) =>
    app.call('POST', paths.brandSheets(brandId), { ...order, markId: mark.id, ...change });
  it('is a picture of the paper’s size, or a page, under its order name', async () => {
    const png = await make();
    expect(png.headers.get('content-disposition')).toContain('01-harrowmere-badge-10x8in.png');
    expect(await sharp(await bytesOf(png)).metadata()).toMatchObject({ width: 1500, height: 1200, density: 150 });
    const pdf = await bytesOf(await make({ format: 'pdf' }));
    expect(new TextDecoder('latin1').decode(pdf)).toMatch(/MediaBox \[\s*0 0 720 576\s*\]/);
  });
  it('never takes the name of a sheet before it: names count on', async () => {
    const names = [];
    for (let k = 0; k < 3; k++) {
      const { headers } = await make({ name: 'Stand Badge Colour', ppi: 72 });
      names.push(/filename="([^"]+)"/.exec(headers.get('content-disposition') ?? '')?.[1]);
    }
    expect(names).toEqual(['stand-badge-colour.png', 'stand-badge-colour-2.png', 'stand-badge-colour-3.png']);
  });
  it.each([
    [{ paper: 'B17' }, 'is no sheet'],
    [{ size: 'large' }, 'takes a number'],
    [{ variant: 'gone' }, 'no such variant'],
    [{ ppi: 4000 }, 'ppi'],
  ])('%j is refused in words', async (change, words) => {
    const response = await make(change);
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect(((await response.json()) as ErrorBody).error.message).toContain(words);
  });
});

describe('a piece', () => {
  it('keeps its order under a name, and is working, ready or archived', async () => {
    const order = { markId: mark.id, variant: 'colour', paper: 'A4', mat: null, ppi: 300, at: 'centre', inset: '8%' };
    const body = { name: '01-badge-a4', order: { ...order, size: '60%', groundId: null, format: 'pdf' } };
    const piece = await app.json<PieceView>('POST', paths.brandPieces(brandId), body);
    expect(piece).toMatchObject({ ...body, state: 'working' });
    const again = await app.json<PieceView>('POST', paths.brandPieces(brandId), { ...body, id: piece.id, name: '02' });
    expect([again.id, again.name]).toEqual([piece.id, '02']);
    await app.json('PATCH', paths.piece(piece.id), { state: 'ready' });
    const list = () => app.json<PieceView[]>('GET', paths.brandPieces(brandId));
    expect(await list()).toEqual([{ ...again, state: 'ready' }]);
    expect((await app.call('PATCH', paths.piece(piece.id), { state: 'lost' })).status).toBe(400);
    expect((await app.call('DELETE', paths.piece(piece.id))).status).toBe(204);
    expect(await list()).toEqual([]);
    expect((await app.call('DELETE', paths.piece(piece.id))).status).toBe(404);
  });
});

describe('a document', () => {
  it('tells its lines, and is signed and dated on them', async () => {
    const { bytes, line } = await drawMooringAgreement();
    const { sha } = await app.json<PdfView>('POST', `${paths.brandPdfs(brandId)}?name=agreement.pdf`, bytes);
    const lines = await app.json<LineView[]>('GET', `${paths.pdfLines(sha, 2)}?name=agreement.pdf`);
    expect(lines[0]).toMatchObject({ x: line.x, y: line.y, width: line.width });
    expect(lines.map((l) => l.words)).toEqual([expect.stringContaining('Odile Farrant'), 'Date']);
    const signed = await app.call('POST', paths.pdfSigned(sha), {
      ...{ markId: mark.id, ink: 'blue', name: 'agreement.pdf' },
      places: [{ page: 2, box: { x: 100, y: 600, width: 80, height: 40 } }],
      typed: [{ text: '3 March', page: 2, x: lines[1].x, y: lines[1].y }],
    });
    expect(signed.headers.get('content-disposition')).toContain('agreement-signed.pdf');
    const out = await bytesOf(signed);
    expect(Buffer.from(out.subarray(0, bytes.length)).equals(Buffer.from(bytes))).toBe(true);
    const added = new TextDecoder('latin1').decode(out.subarray(bytes.length));
    expect(added).toContain('/Signature1');
    expect(added).toContain('/Signature2');
    const nowhere = await app.json<ErrorBody>('POST', paths.pdfSigned(sha), {
      ...{ markId: mark.id, ink: 'black', name: 'agreement.pdf' },
      places: [{ page: 7, box: { x: 0, y: 0, width: 8, height: 4 } }],
    });
    expect(nowhere.error.message).toContain('no page 7');
  });
});

describe('a cup', () => {
  const { width: _, height: __, ...surface } = usualSurface;
  it('leaves as colours and mask of equal size', async () => {
    const body = { markId: mark.id, variant: 'colour', form: 'pair', surface };
    const zip = unzipSync(await bytesOf(await app.call('POST', paths.brandSurfaces(brandId), body)));
    expect(Object.keys(zip)).toEqual(['badge-colour-cylinder-colours.png', 'badge-colour-cylinder-mask.png']);
    const [colours, mask] = await Promise.all(Object.values(zip).map((png) => sharp(png).metadata()));
    expect([colours.width, colours.height, colours.hasAlpha]).toEqual([2400, 1800, true]);
    expect([mask.width, mask.height, mask.hasAlpha]).toEqual([2400, 1800, false]);
    const look = await bytesOf(await app.call('POST', paths.brandSurfaces(brandId), { ...body, form: 'look' }));
    expect(await sharp(look).metadata()).toMatchObject({ width: 720, height: 540 });
  });
  it('of an unknown kind is refused', async () => {
    const body = { markId: mark.id, variant: 'colour', form: 'look', surface: { ...surface, kind: 'cone' } };
    expect((await app.call('POST', paths.brandSurfaces(brandId), body)).status).toBe(400);
  });
});

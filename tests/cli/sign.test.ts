import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { PDFDocument, PDFName } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { drawPage, findSignLine, textOf } from '../../codecs/documents/openDocument';
import { signPdf } from '../../codecs/documents/signPdf';
import { signatureBox } from '../../core/documents/signatureBox';
import { type Agreement, drawAgreements } from '../support/agreements';
import { commandLine } from '../support/commandLine';

const { at, tassel } = commandLine('sign');
const HALF_MM = 0.5 * (72 / 25.4);
const BOX =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20H0z" fill="#c02020"/></svg>';
let agreements: Agreement[];
let stamp: Uint8Array;
beforeAll(async () => {
  agreements = await drawAgreements();
  writeFileSync(at('mark.svg'), BOX);
  await tassel('export', at('mark.svg'), '--out', at('stamp.pdf'));
  stamp = new Uint8Array(readFileSync(at('stamp.pdf')));
});

/** Where the stamp's red lies on a page as another program draws it, points. */
async function redOn(bytes: Uint8Array, page: number) {
  const { width, height, data } = await drawPage(bytes, page, 2);
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p += 4) {
      if (data[p] < 150 || data[p + 1] > 90) continue;
      [left, top] = [Math.min(left, x), Math.min(top, y)];
      [right, bottom] = [Math.max(right, x + 1), Math.max(bottom, y + 1)];
    }
  }
  return { x: left / 2, y: top / 2, width: (right - left) / 2, height: (bottom - top) / 2 };
}

describe('documents of different making', () => {
  it('are signed on the line that is meant, upright, and all else of them stays', async () => {
    for (const { name, bytes, page, line: meant } of agreements) {
      const line = await findSignLine(bytes, name, null);
      expect([name, line.page]).toEqual([name, page]);
      const off = [line.x + line.width / 2 - meant.x - meant.width / 2, line.y - meant.y];
      expect([name, ...off.map((v) => Math.abs(v) < HALF_MM)]).toEqual([name, true, true]);
      const box = signatureBox(line, { width: 40, height: 20 }, 20);
      const signed = await signPdf(bytes, name, [{ pdf: stamp, page, box }]);
      // What was there is there, byte for byte, and then what is new.
      expect(Buffer.from(signed.subarray(0, bytes.length)).equals(Buffer.from(bytes))).toBe(true);
      expect((await textOf(signed)).equals(await textOf(bytes))).toBe(true);
      const seen = await redOn(signed, page);
      for (const key of ['x', 'y', 'width', 'height'] as const)
        expect([name, key, Math.abs(seen[key] - box[key]) <= 0.75]).toEqual([name, key, true]);
      writeFileSync(at('checked.pdf'), signed);
      const check = spawnSync('qpdf', ['--check', at('checked.pdf')], { encoding: 'utf8' });
      expect([name, check.status, check.stderr]).toEqual([name, 0, '']);
    }
  });
  it('keep their form fields, and take more than one signature', async () => {
    const { bytes, name } = agreements.find((a) => a.name === 'form') as Agreement;
    const stamps = [80, 300].map((x) => ({ pdf: stamp, page: 1, box: { x, y: 600, width: 60, height: 30 } }));
    const signed = await signPdf(await signPdf(bytes, name, stamps), name, [
      { pdf: stamp, page: 1, box: { x: 80, y: 700, width: 60, height: 30 } },
    ]);
    const fields = (await PDFDocument.load(signed)).getForm().getFields();
    expect(fields.map((f) => f.getName())).toEqual(['boat', 'paid']);
    const seen = await redOn(signed, 1);
    expect([seen.x, seen.y, seen.width, seen.height].map(Math.round)).toEqual([80, 600, 280, 130]);
  });
});

describe('sign', () => {
  it('finds the line of the agreement and tells where', async () => {
    const { bytes, line } = agreements[0];
    writeFileSync(at('in.pdf'), bytes);
    const words = ['--mark', at('mark.svg'), '--out', at('out.pdf'), '--width-mm', '40', '--json'];
    const { stdout, stderr } = await tassel('sign', at('in.pdf'), ...words);
    expect(stderr).toBe('');
    const told = JSON.parse(stdout);
    expect(told).toMatchObject({ page: 2, line: { x: line.x, y: line.y, width: line.width } });
    const wide = (40 / 25.4) * 72;
    expect(told.box.width).toBeCloseTo(wide, 2);
    expect(told.box.x + wide / 2).toBeCloseTo(line.x + line.width / 2, 2);
    expect(told.box.y + told.box.height).toBeCloseTo(line.y, 2);
  });
  it('takes a place, a page and an ink, and makes paths of a mark of pixels', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="100">' +
      '<path d="M10 80C80 -40 120 160 290 20" stroke="#123a9a" stroke-width="9" fill="none"/></svg>';
    writeFileSync(at('pen.png'), await sharp(Buffer.from(svg)).png().toBuffer());
    const words = [
      '--mark',
      at('pen.png'),
      '--out',
      at('pen.pdf'),
      '--page',
      '1',
      '--line',
      '200,300',
      '--ink',
      '#c02020',
    ];
    expect((await tassel('sign', at('in.pdf'), ...words, '--width-mm', '50')).stderr).toBe('');
    const signed = new Uint8Array(readFileSync(at('pen.pdf')));
    const seen = await redOn(signed, 1);
    expect(Math.abs(seen.x + seen.width / 2 - 200)).toBeLessThan(1);
    expect(Math.abs(seen.y + seen.height - 300)).toBeLessThan(1);
    expect(execFileSync('pdfimages', ['-list', at('pen.pdf')], { encoding: 'utf8' }).split('\n')).toHaveLength(3);
  });
  it('types a date and a name on their lines, without a font, and makes a page a picture', async () => {
    const words = ['--mark', at('mark.svg'), '--date', '3 March 2031', '--width-mm', '30'];
    expect((await tassel('sign', at('in.pdf'), ...words, '--out', at('dated.pdf'))).stderr).toBe('');
    const fonts = (name: string) => execFileSync('pdffonts', [at(name)], { encoding: 'utf8' });
    expect(fonts('dated.pdf')).toBe(fonts('in.pdf'));
    await tassel('sign', at('in.pdf'), ...words, '--out', at('dated.png'));
    const picture = sharp(at('dated.png'));
    expect(await picture.metadata()).toMatchObject({ width: 2480, height: 3509 });
    const { data, info } = await picture.removeAlpha().raw().toBuffer({ resolveWithObject: true });
    // Ink right above the line for the date, which begins at 360 points.
    let dark = 0;
    for (let y = Math.round((640 - 11) * (300 / 72)); y < Math.round((640 - 3) * (300 / 72)); y++)
      for (let x = Math.round(363 * (300 / 72)); x < Math.round(440 * (300 / 72)); x++)
        if (data[(y * info.width + x) * 3] < 100) dark++;
    expect(dark).toBeGreaterThan(500);
    const noName = await tassel('sign', at('in.pdf'), '--mark', at('mark.svg'), '--name', 'X', '--out', at('no.pdf'));
    expect(noName.stderr).toContain('has no line for a name');
  });
  it('refuses what a change would break, and writes nothing', async () => {
    execFileSync('qpdf', ['--encrypt', '', 'owner', '256', '--', at('in.pdf'), at('locked.pdf')]);
    const pdf = await PDFDocument.load(agreements[0].bytes);
    const { context } = pdf;
    const held = context.obj({ Type: 'Sig', Filter: 'Adobe.PPKLite', ByteRange: [0, 1, 2, 3] });
    held.set(PDFName.of('Contents'), context.obj('00'));
    context.register(held);
    writeFileSync(at('signed.pdf'), await pdf.save());
    writeFileSync(at('text.pdf'), 'no document');
    for (const [name, words] of [
      ['locked.pdf', 'locked.pdf is locked'],
      ['signed.pdf', 'signed.pdf is already signed by a certificate'],
      ['text.pdf', 'text.pdf'],
    ]) {
      const { code, stderr } = await tassel('sign', at(name), '--mark', at('mark.svg'), '--out', at('no.pdf'));
      expect([code, stderr]).toEqual([1, expect.stringContaining(words)]);
      expect(existsSync(at('no.pdf'))).toBe(false);
    }
  });
  it('says what to do where there is no line', async () => {
    const words = ['--mark', at('mark.svg'), '--out', at('no.pdf'), '--page', '1'];
    expect((await tassel('sign', at('in.pdf'), ...words)).stderr).toContain('page 1 has no line to sign on');
    expect((await tassel('sign', at('in.pdf'), ...words.slice(0, 4), '--page', '9')).stderr).toContain('no page 9');
  });
});

import { crc32 } from 'node:zlib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { disc, drawMark, pngOf } from '../../tests/support/pictures';
import { checkFile } from './checkFile';
import { kindOfFile } from './lookAt';

const mark = drawMark(60, 40, disc(30, 20, 12), [31, 90, 69]);
const picture = async () => sharp(await pngOf(mark));
const text = (s: string) => new TextEncoder().encode(s);

/** A PNG with one more chunk before its end. */
function withChunk(png: Buffer, type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const chunk = Buffer.alloc(body.length + 8);
  chunk.writeUInt32BE(data.length, 0);
  body.copy(chunk, 4);
  chunk.writeUInt32BE(crc32(body), body.length + 4);
  return Buffer.concat([png.subarray(0, -12), chunk, png.subarray(-12)]);
}

/** A TIFF of one grey pixel with an artist of one letter. @see TIFF 6.0, section 2 */
function tiffBy(artist: string): Buffer {
  const tags = [
    ...[
      [256, 3, 1],
      [257, 3, 1],
      [258, 3, 8],
      [259, 3, 1],
      [262, 3, 1],
      [273, 4, 8],
      [277, 3, 1],
      [278, 3, 1],
      [279, 4, 1],
    ],
    [315, 2, artist.charCodeAt(0)],
  ];
  const out = Buffer.alloc(10 + 2 + tags.length * 12 + 4);
  out.write('II*\0', 0, 'latin1');
  out.writeUInt32LE(10, 4);
  out[8] = 128;
  out.writeUInt16LE(tags.length, 10);
  tags.forEach(([tag, type, value], k) => {
    const at = 12 + k * 12;
    out.writeUInt16LE(tag, at);
    out.writeUInt16LE(type, at + 2);
    out.writeUInt32LE(type === 2 ? 2 : 1, at + 4);
    out.writeUInt32LE(value, at + 8);
  });
  return out;
}

describe('what a file shows', () => {
  it.each([
    ['png', async () => (await picture()).png().toBuffer()],
    ['a palette', async () => (await picture()).png({ palette: true }).toBuffer()],
    ['16 bits', async () => (await picture()).toColourspace('rgb16').png().toBuffer()],
    ['webp', async () => (await picture()).webp({ lossless: true }).toBuffer()],
    ['avif', async () => (await picture()).avif({ quality: 90 }).toBuffer()],
    ['tiff', async () => (await picture()).tiff({ compression: 'lzw' }).toBuffer()],
  ])('%s: its transparency, its extents and its colour', async (_, make) => {
    const found = await checkFile(await make(), 'a');
    expect(found).toMatchObject({ width: 60, height: 40, hasAlpha: true, cornersClear: true, problems: [] });
    expect(found.alphaRange?.[0]).toBe(0);
    expect(found.alphaRange?.[1]).toBeGreaterThan(250);
    const e = found.extents as { x: number; width: number };
    expect(Math.abs(e.x - 18) + Math.abs(e.width - 24)).toBeLessThanOrEqual(2);
    expect(found.colours[0]).toMatch(/^#[12][0-9a-f]5[0-9a-f]4[0-9a-f]$/);
  });
  it('an SVG in centimetres: its size in mm, its fills', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="2cm" height="1cm" viewBox="0 0 20 10">' +
      '<path d="M5 2h10v6H5z" fill="teal"/></svg>';
    expect(await checkFile(text(svg), 'a.svg')).toMatchObject({
      ...{ width: 20, height: 10, unit: 'mm', colours: ['#008080'], pictures: 0, fonts: 0, cornersClear: true },
      extents: { x: 5, y: 2, width: 10, height: 6 },
    });
  });
  it('an EPS: its box, drawn', async () => {
    const eps = [
      ...['%!PS-Adobe-3.0 EPSF-3.0', '%%BoundingBox: 0 0 72 36', '%%EndComments'],
      ...['0 0 1 setrgbcolor', '18 9 36 18 rectfill', 'showpage', '%%EOF', ''],
    ].join('\n');
    const found = await checkFile(text(eps), 'a.eps');
    expect(found).toMatchObject({ format: 'eps', width: 72, height: 36, unit: 'pt', colours: ['#0000ff'] });
    expect(Math.abs((found.extents?.x ?? 0) - 18)).toBeLessThan(0.2);
  });
});

describe('what should not be in a file is told', () => {
  it.each([
    [
      'a note in a PNG',
      async () => withChunk(await (await picture()).png().toBuffer(), 'tEXt', Buffer.from('a\0b')),
      'tEXt',
    ],
    [
      'bytes after its end',
      async () => Buffer.concat([await (await picture()).png().toBuffer(), Buffer.alloc(9)]),
      '9 bytes',
    ],
    [
      'EXIF in a WebP',
      async () =>
        (await picture())
          .webp()
          .withExif({ IFD0: { Artist: 'A' } })
          .toBuffer(),
      'EXIF',
    ],
    [
      'EXIF in an AVIF',
      async () =>
        (await picture())
          .avif()
          .withExif({ IFD0: { Artist: 'A' } })
          .toBuffer(),
      'EXIF',
    ],
    ['an author in a TIFF', async () => tiffBy('A'), 'author'],
    [
      'a script in an SVG',
      async () => text('<svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"><script/></svg>'),
      'script',
    ],
  ])('%s', async (_, make, words) => expect((await checkFile(await make(), 'a')).problems.join()).toContain(words));
  it('and that nothing is shown, or one flat colour', async () => {
    const of = (alpha: number) =>
      sharp({ create: { width: 9, height: 9, channels: 4, background: { r: 9, g: 9, b: 9, alpha } } });
    expect((await checkFile(await of(0).png().toBuffer(), 'a')).problems).toEqual(['shows nothing']);
    expect((await checkFile(await of(1).png().toBuffer(), 'a')).problems).toEqual(['shows one flat colour']);
  });
});

describe('files that cannot be read', () => {
  const broken: [string, Uint8Array][] = [
    ['empty', new Uint8Array(0)],
    ['text', text('hello')],
    ['half an icon', Uint8Array.from([0, 0, 1, 0, 1, 0, 16, 16, 0, 0, 1, 0, 32, 0, 99, 0, 0, 0, 22, 0, 0, 0])],
    ['a TIFF head', Uint8Array.from([0x49, 0x49, 0x2a, 0, 8, 0, 0, 0, 0, 0])],
    ['a JPEG head', Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 0, 4, 0, 0])],
    ['a WebP head', text('RIFF....WEBPVP8 ')],
    ['an SVG cut short', text('<svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"><path')],
    ['a PDF head', text('%PDF-1.7\n')],
    ['an EPS without a box', text('%!PS-Adobe-3.0 EPSF-3.0\n')],
  ];
  it.each(broken)('%s: its name and the reason, and what can be said all the same', async (name, bytes) => {
    const found = await checkFile(bytes, `${name}.x`);
    expect([found.width, found.bytes]).toEqual([null, bytes.length]);
    expect(found.problems[0]).toContain(`${name}.x`);
    expect(found.sha256).toMatch(/^[0-9a-f]{64}$/);
  });
  it('a file is known by its first bytes', () =>
    expect(broken.map(([, bytes]) => kindOfFile(bytes))).toEqual([
      null,
      null,
      'ico',
      'tiff',
      'jpeg',
      'webp',
      'svg',
      'pdf',
      'eps',
    ]));
});

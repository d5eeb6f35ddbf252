import { crc32, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { withCameraTags } from './encodeCapture';
import { disc, drawMark, jpegOf, onGround, pixel, pngOf } from '../tests/support/pictures';
import { decodePicture, reducePicture } from './decodePicture';
import { encodePng, encodeWorkingPng } from './encodePng';
import { chunkTypes, readBackPng } from './readBackPng';
import { readBackZip } from './readBackZip';
import { zipSync } from 'fflate';

/** A PNG with its header and pixels alone. */
function onlyPixels(png: Buffer): Buffer {
  const parts = [png.subarray(0, 8)];
  for (let at = 8; at + 12 <= png.length; at += 12 + png.readUInt32BE(at)) {
    const whole = png.subarray(at, at + 12 + png.readUInt32BE(at));
    if (['IHDR', 'IDAT', 'IEND'].includes(whole.toString('latin1', 4, 8))) parts.push(whole);
  }
  return Buffer.concat(parts);
}

/** A chunk of a PNG with its length and check sum. */
function chunk(type: string, body: Buffer): Buffer {
  const named = Buffer.concat([Buffer.from(type, 'latin1'), body]);
  const whole = Buffer.alloc(named.length + 8);
  whole.writeUInt32BE(body.length, 0);
  whole.set(named, 4);
  whole.writeUInt32BE(crc32(named), named.length + 4);
  return whole;
}

const mark = drawMark(60, 40, disc(20, 20, 12), [200, 30, 40]);

describe('decodePicture', () => {
  it('gives straight alpha exactly as stored', async () => {
    const { raster, hasAlphaChannel, kind } = await decodePicture(await pngOf(mark), 'a.png');
    expect(raster.data).toEqual(mark.data);
    expect(hasAlphaChannel).toBe(true);
    expect(kind.id).toBe('png');
  });
  it('reads WebP and TIFF', async () => {
    const raw = sharp(mark.data, { raw: { width: 60, height: 40, channels: 4 } });
    expect(
      (await decodePicture(await raw.clone().webp({ lossless: true, exact: true }).toBuffer(), 'a.webp')).raster.data,
    ).toEqual(mark.data);
    expect(
      (await decodePicture(await raw.clone().tiff({ compression: 'lzw' }).toBuffer(), 'a.tif')).raster.data,
    ).toEqual(mark.data);
  });
  it('applies the orientation tag', async () => {
    const upright = await jpegOf(onGround(mark, [255, 255, 255]), 95);
    const { raster, notes } = await decodePicture(await withCameraTags(upright, 6), 'photo.jpg');
    expect([raster.width, raster.height]).toEqual([40, 60]);
    expect(pixel(raster, 20, 20)[1]).toBeLessThan(80); // a quarter turn clockwise: (20, 20) came from (20, 19)
    expect(pixel(raster, 20, 50)[1]).toBeGreaterThan(240);
    expect(notes).toContain('turned upright by its orientation tag');
  });
  it('converts an embedded profile to sRGB', async () => {
    const p3 = await sharp({ create: { width: 20, height: 20, channels: 3, background: { r: 200, g: 30, b: 40 } } })
      .withIccProfile('p3')
      .png()
      .toBuffer();
    const { raster, notes } = await decodePicture(p3, 'wide.png');
    expect(notes).toContain('converted to sRGB from its own colour profile');
    // sharp converts sRGB to P3 when it writes, so reading back through the profile gives the colour that was meant.
    for (const [c, v] of [200, 30, 40].entries()) expect(Math.abs(pixel(raster, 5, 5)[c] - v)).toBeLessThan(4);
  });
  it.each([
    ['empty.png', new Uint8Array(0), 'intake/empty', 'empty.png is empty'],
    ['notes.txt', new TextEncoder().encode('hello there'), 'intake/unsupported', 'notes.txt is not a PNG'],
    ['logo.png', new TextEncoder().encode('<svg/>'), 'intake/mislabelled', 'logo.png is named as PNG'],
  ])('refuses %s', async (name, bytes, code, message) => {
    await expect(decodePicture(bytes, name)).rejects.toMatchObject({ code, message: expect.stringContaining(message) });
  });
  it('refuses a picture named as another kind, and says what to rename it to', async () => {
    await expect(decodePicture(await jpegOf(onGround(mark, [0, 0, 0])), 'logo.png')).rejects.toThrow(
      'Rename it to end in .jpg',
    );
  });
  it.each(['png', 'jpg', 'webp', 'tif'] as const)('refuses a %s that breaks off in the middle', async (ending) => {
    const big = onGround(
      drawMark(300, 300, (x, y) => ((x * 7 + y * 13) % 17) / 17, [10, 200, 90]),
      [255, 255, 255],
    );
    const raw = sharp(big.data, { raw: { width: 300, height: 300, channels: 4 } });
    const writers = {
      png: () => raw.png(),
      jpg: () => raw.removeAlpha().jpeg(),
      webp: () => raw.webp(),
      tif: () => raw.tiff(),
    };
    const whole = await writers[ending]().toBuffer();
    await expect(decodePicture(whole.subarray(0, whole.length >> 1), `half.${ending}`)).rejects.toMatchObject({
      code: 'intake/damaged',
      message: expect.stringContaining(`half.${ending} is damaged`),
    });
  });
  it('says what is wrong in words of its own, not in those of a library', async () => {
    const png = Buffer.from(await pngOf(mark));
    png[60] ^= 0xff;
    const jpeg = await jpegOf(onGround(mark, [9, 200, 30]));
    const faults = await Promise.all(
      [
        decodePicture(png, 'crc.png'),
        decodePicture(jpeg.subarray(0, jpeg.length >> 1), 'half.jpg'),
        decodePicture(new TextEncoder().encode('GIF'.padEnd(99, 'x')), 'x.gif'),
      ].map((work) =>
        work.then(
          () => '',
          (e: Error) => e.message,
        ),
      ),
    );
    expect(faults[0]).toMatch(/^crc\.png is damaged: (its picture data is broken|a part of it is missing)\. Ask for/);
    expect(faults[1]).toContain('half.jpg is damaged: a part of it is missing.');
    for (const text of faults) expect(text).not.toMatch(/Vips|failOn|libspng|corrupt|header|Input/i);
  });
  it('takes a lawful TIFF whose date is none', async () => {
    const { raster } = await decodePicture(tiffWithDate('never'), 'scan.tif');
    expect([raster.width, raster.height, ...pixel(raster, 3, 2)]).toEqual([6, 5, 200, 30, 40, 255]);
  });
  it('says what to do about a picture that is too small', async () => {
    const dot = drawMark(3, 3, () => 1, [0, 0, 0]);
    await expect(decodePicture(await pngOf(dot), 'dot.png')).rejects.toThrow(/3 × 3 px.*Ask for the largest version/);
  });
  it('reduces a picture of more pixels than are worked on, and says so', async () => {
    const large = onGround(
      drawMark(400, 300, () => 1, [10, 20, 30]),
      [0, 0, 0],
    );
    const { raster, notes } = await decodePicture(await pngOf(large), 'large.png', 30_000);
    expect([raster.width, raster.height]).toEqual([200, 150]);
    expect(notes.join()).toContain('worked on at');
    expect(pixel(raster, 100, 75)).toEqual([10, 20, 30, 255]);
  });
  it('refuses more pixels than 120 million before decoding them', async () => {
    const huge = await sharp({
      create: { width: 12000, height: 11000, channels: 3, background: '#fff' },
      limitInputPixels: false,
    })
      .png({ compressionLevel: 1 })
      .toBuffer();
    await expect(decodePicture(huge, 'poster.png')).rejects.toMatchObject({ code: 'intake/too-many-pixels' });
  });
});

describe('encoding', () => {
  it('a delivered PNG is RGBA, sRGB, not interlaced, and reads back pixel for pixel', async () => {
    const png = await encodePng(mark);
    expect(readBackPng(png, mark, 'a.png')).toMatchObject({
      width: 60,
      height: 40,
      hasAlpha: true,
      isInterlaced: false,
      isSrgb: true,
    });
    expect(chunkTypes(png).filter((c) => /^(tEXt|zTXt|iTXt|eXIf|tIME)$/.test(c))).toEqual([]);
  });
  it('reading back notices a changed pixel, another size, an interlaced file and metadata', async () => {
    const png = await encodePng(mark);
    const other = { ...mark, data: mark.data.slice() };
    other.data[(20 * 60 + 20) * 4]++;
    expect(() => readBackPng(png, other, 'a.png')).toThrow('pixel 20, 20 differs');
    expect(() =>
      readBackPng(
        png,
        drawMark(40, 60, () => 0, [0, 0, 0]),
        'a.png',
      ),
    ).toThrow('instead of 40 × 60');
    const raw = sharp(mark.data, { raw: { width: 60, height: 40, channels: 4 } });
    expect(() => readBackPng(Buffer.from([]), mark, 'a.png')).toThrow();
    const interlaced = await raw.clone().png({ progressive: true }).toBuffer();
    expect(() => readBackPng(interlaced, mark, 'a.png')).toThrow('interlaced');
    const tagged = await raw
      .clone()
      .withExif({ IFD0: { Copyright: 'x' } })
      .png()
      .toBuffer();
    expect(() => readBackPng(tagged, mark, 'a.png')).toThrow('chunk');
  });
  it('reading back finds the very pixel in a picture of several megabytes, filtered rows or not', async () => {
    const large = drawMark(700, 900, (x, y) => ((x * 13 + y * 7) % 29) / 28, [30, 160, 220]);
    for (const png of [
      await encodePng(large),
      await sharp(large.data, { raw: { width: 700, height: 900, channels: 4 } })
        .png({ adaptiveFiltering: true })
        .toBuffer()
        .then(onlyPixels),
    ]) {
      expect(readBackPng(png, large, 'large.png')).toMatchObject({ width: 700, height: 900 });
      // A megabyte ends in row 374.
      for (const [x, y] of [
        [0, 0],
        [3, 373],
        [250, 374],
        [699, 374],
        [0, 375],
        [699, 899],
      ]) {
        const other = { ...large, data: large.data.slice() };
        other.data[(y * 700 + x) * 4 + 1] ^= 1;
        expect(() => readBackPng(png, other, 'large.png')).toThrow(
          `large.png did not read back as written: pixel ${x}, ${y} differs`,
        );
      }
      const damaged = Buffer.from(png);
      damaged[damaged.length >> 1] ^= 1;
      expect(() => readBackPng(damaged, large, 'large.png')).toThrow('check sum');
    }
  });
  it('reading back refuses too few and too many rows, and pixels that cannot be unpacked', async () => {
    const stride = 60 * 4 + 1;
    const file = (pixels: Buffer) =>
      Buffer.concat([
        Buffer.from('89504e470d0a1a0a', 'hex'),
        chunk('IHDR', Buffer.from('0000003c000000280806000000', 'hex')),
        chunk('IDAT', pixels),
        chunk('IEND', Buffer.alloc(0)),
      ]);
    const rows = (n: number) => {
      const raw = Buffer.alloc(stride * n);
      for (let y = 0; y < Math.min(n, 40); y++) raw.set(mark.data.subarray(y * 240, (y + 1) * 240), y * stride + 1);
      return raw;
    };
    expect(() => readBackPng(file(deflateSync(rows(40))), mark, 'a.png')).not.toThrow();
    expect(() => readBackPng(file(deflateSync(rows(39))), mark, 'a.png')).toThrow(
      `it holds ${39 * stride} bytes of pixels instead of ${40 * stride}`,
    );
    expect(() => readBackPng(file(deflateSync(rows(41))), mark, 'a.png')).toThrow(`more than ${40 * stride}`);
    expect(() => readBackPng(file(deflateSync(rows(40)).subarray(0, 30)), mark, 'a.png')).toThrow('cannot be unpacked');
    const strange = rows(40);
    strange[5 * stride] = 7;
    expect(() => readBackPng(file(deflateSync(strange)), mark, 'a.png')).toThrow('unknown filter type 7');
  });
  it('a working picture is lossless, with an alpha channel only where there is something in it', async () => {
    expect((await encodeWorkingPng(mark))[25]).toBe(6);
    const opaque = onGround(mark, [250, 240, 230]);
    const png = await encodeWorkingPng(opaque);
    expect(png[25]).toBe(2);
    expect((await decodePicture(png, 'w.png')).raster.data).toEqual(opaque.data);
  });
  it('a reduction keeps the shape and leaves small pictures alone', async () => {
    expect(await reducePicture(mark, 10_000)).toBe(mark);
    const small = await reducePicture(mark, 600);
    expect([small.width, small.height]).toEqual([30, 20]);
  });
});

describe('readBackZip', () => {
  const meant = new Map([
    ['a.png', Uint8Array.from([1, 2, 3])],
    ['receipt.txt', Uint8Array.from([4])],
  ]);
  const packed = zipSync(Object.fromEntries(meant), { level: 0 });
  it('accepts what was meant', () => expect(() => readBackZip(packed, meant, 'z.zip')).not.toThrow());
  it('notices a changed byte, a missing file and a strange one', () => {
    const at = packed.indexOf(2, 35);
    const changed = packed.slice();
    changed[at] = 9;
    expect(() => readBackZip(changed, meant, 'z.zip')).toThrow(/differs|checksum/);
    expect(() => readBackZip(packed, new Map([...meant, ['b.png', new Uint8Array(1)]]), 'z.zip')).toThrow(
      '2 files instead of 3',
    );
    expect(() => readBackZip(packed, new Map([['a.png', Uint8Array.from([1, 2, 3])]]), 'z.zip')).toThrow(
      'was not meant',
    );
  });
});

/** A TIFF of 6 × 5 px of one colour, whose date and time tag says something else (TIFF 6.0, section 8). */
function tiffWithDate(date: string): Uint8Array {
  const [width, height] = [6, 5];
  const SHORT = 3;
  const ASCII = 2;
  const entries: [tag: number, type: number, count: number, value: number][] = [
    [256, SHORT, 1, width],
    [257, SHORT, 1, height],
    [258, SHORT, 3, 200],
    [259, SHORT, 1, 1],
    [262, SHORT, 1, 2],
    [273, SHORT, 1, 300],
    [277, SHORT, 1, 3],
    [278, SHORT, 1, height],
    [279, SHORT, 1, width * height * 3],
    [306, ASCII, date.length + 1, 220],
  ];
  const out = Buffer.alloc(300 + width * height * 3);
  out.write('II*\0', 0, 'latin1');
  out.writeUInt32LE(8, 4);
  out.writeUInt16LE(entries.length, 8);
  entries.forEach(([tag, type, count, value], k) => {
    const at = 10 + 12 * k;
    out.writeUInt16LE(tag, at);
    out.writeUInt16LE(type, at + 2);
    out.writeUInt32LE(count, at + 4);
    out.writeUInt32LE(value, at + 8);
  });
  for (let c = 0; c < 3; c++) out.writeUInt16LE(8, 200 + 2 * c);
  out.write(date, 220, 'latin1');
  for (let k = 0; k < width * height; k++) out.set([200, 30, 40], 300 + 3 * k);
  return out;
}

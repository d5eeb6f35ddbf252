import exifr from 'exifr';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { flatRaster } from '../../core/placements/placeItem';
import { passOnExif } from './exif';
import { fromProfile, layOnPhoto, openPhoto } from './photo';
import { framePhoto, gapsOf } from './placeOnPhoto';
import { writePhoto } from './writePhoto';

const exif = {
  IFD0: { Artist: 'Somebody', Orientation: '1' },
  IFD2: { DateTimeOriginal: '2031:03:02 09:00:00' },
  IFD3: { GPSLatitude: '51/1 30/1 12/1', GPSLatitudeRef: 'N', GPSLongitude: '1/1 2/1 3/1', GPSLongitudeRef: 'W' },
};
const base = (background = '#6f8f3f', width = 300, height = 200) =>
  sharp({ create: { width, height, channels: 3, background } });
let photo: Buffer;
beforeAll(async () => {
  photo = await base().withExif(exif).jpeg({ quality: 95 }).toBuffer();
});
const tiffOf = async (bytes: Buffer) => ((await sharp(bytes).metadata()).exif as Buffer).subarray(6);
const options = { quality: 92 };

describe('what a photo says of itself', () => {
  it('goes on without the place, to the last byte of it', async () => {
    const clean = passOnExif(await tiffOf(photo), false) as Buffer;
    const [before, after] = [await exifr.parse(photo, true), await exifr.parse(clean, true)];
    expect(before).toMatchObject({ Artist: 'Somebody', latitude: expect.any(Number) });
    expect(after).toMatchObject({ Artist: 'Somebody', DateTimeOriginal: expect.any(Date) });
    expect(Object.keys(after).filter((k) => /gps|tude/i.test(k))).toEqual([]);
    // 51° 30′ 12″ as three fractions of 32 bits.
    const place = Buffer.from([51, 0, 0, 0, 1, 0, 0, 0, 30, 0, 0, 0]);
    expect((await tiffOf(photo)).includes(place)).toBe(true);
    expect(clean.includes(place)).toBe(false);
  });
  it('with the place where that is asked for', async () => {
    const kept = passOnExif(await tiffOf(photo), true) as Buffer;
    expect((await exifr.parse(kept, true)).latitude).toBeCloseTo(51.5033, 3);
  });
  it('is upright from now on', async () => {
    const turned = await base('#102030', 300, 200)
      .withExif({ IFD0: { Orientation: '6' } })
      .jpeg()
      .toBuffer();
    const bytes = await sharp(turned).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    const opened = await openPhoto(bytes, 'turned.jpg');
    expect([opened.width, opened.height]).toEqual([200, 300]);
    const back = await sharp(await writePhoto(opened, 'out.jpg', options)).metadata();
    expect([back.width, back.height, back.orientation ?? 1]).toEqual([200, 300, 1]);
  });
  it.each([
    ['nothing', Buffer.alloc(0)],
    ['words', Buffer.from('no directory of anything')],
    ['a directory that ends too soon', Buffer.from([0x49, 0x49, 42, 0, 8, 0, 0, 0, 90, 0, 1, 2, 3, 4, 5, 6])],
  ])('%s is passed on to nobody', (_, bytes) => expect(passOnExif(bytes, false)).toBeNull());
});

describe('a photo', () => {
  it('changes nowhere but beneath what is laid on it', async () => {
    const opened = await openPhoto(photo, 'photo.jpg');
    const before = Buffer.from(opened.data);
    await layOnPhoto(opened, flatRaster(20, 10, '#ff0000'), { x: 290, y: -4 }, { opacity: 1, mode: 'normal' });
    const changed = [];
    for (let p = 0; p < before.length; p += 3)
      if (!before.subarray(p, p + 3).equals(opened.data.subarray(p, p + 3))) changed.push(p / 3);
    expect(changed).toHaveLength(10 * 6);
    expect([Math.min(...changed.map((k) => k % 300)), Math.max(...changed.map((k) => Math.floor(k / 300)))]).toEqual([
      ...[290, 5],
    ]);
    expect([...opened.data.subarray(290 * 3, 290 * 3 + 3)]).toEqual([255, 0, 0]);
  });
  it('keeps its chroma, or takes the one that is asked for, and may be progressive', async () => {
    const full = await base().jpeg({ chromaSubsampling: '4:4:4' }).toBuffer();
    const of = async (bytes: Buffer, more: object = {}) =>
      sharp(await writePhoto(await openPhoto(bytes, 'a.jpg'), 'b.jpg', { ...options, ...more })).metadata();
    expect((await of(full)).chromaSubsampling).toBe('4:4:4');
    expect((await of(photo)).chromaSubsampling).toBe('4:2:0');
    expect(await of(full, { subsampling: '4:2:0', isProgressive: true })).toMatchObject({
      ...{ chromaSubsampling: '4:2:0', isProgressive: true },
    });
  });
  it('of another profile is looked at in sRGB', async () => {
    const p3 = await base('#6f8f3f').withIccProfile('p3').png().toBuffer();
    const opened = await openPhoto(p3, 'p3.png');
    expect(opened.profile).not.toBeNull();
    expect(Math.abs(opened.data[0] - 0x6f)).toBeGreaterThan(3);
    const { raster } = await opened.look({ x: 10, y: 10, width: 4, height: 4 });
    [0x6f, 0x8f, 0x3f].forEach((v, c) => expect(Math.abs(raster.data[c] - v)).toBeLessThanOrEqual(2));
    const back = await fromProfile(flatRaster(2, 2, '#808080'), opened.profile as Buffer);
    expect(Math.abs(back.data[0] - 0x80)).toBeLessThanOrEqual(1);
  });
  it('in a part of a frame leaves the rest a gap', () => {
    const own = flatRaster(1920, 1080, '#806040');
    const part = framePhoto({ width: 640, height: 360, colour: null }, own, { x: 0, y: 0, width: 640, height: 320 });
    expect(gapsOf(part)).toEqual({ px: 640 * 40, box: { x: 0, y: 320, width: 640, height: 40 } });
    expect(gapsOf(framePhoto({ width: 640, height: 360, colour: '#000000' }, own, 'fit'))).toBeNull();
  });
});

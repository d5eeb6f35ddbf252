import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import type { CheckedFile } from '../../codecs/check/checkFile';
import { formats } from '../../core/formats';
import { purposes } from '../../core/purposes';
import { commandLine } from '../support/commandLine';
import { disc, drawMark, either, onGround, pngOf, ring } from '../support/pictures';

const { at, tassel } = commandLine('make');
const outside = (program: string, ...args: string[]) => spawnSync(program, args, { encoding: 'latin1' });

const MARKS = [
  { name: 'Typed', original: 'typed.svg' },
  { name: 'Badge', original: 'badge.jpg' },
];
const width = (widthPx: number) => ({ id: 'width', params: { widthPx } });
async function make(folder: string, lines: object[], marks: object[] = MARKS) {
  writeFileSync(at(`${folder}.json`), JSON.stringify({ marks, lines }));
  const ended = await tassel('make', at(`${folder}.json`), '--out', at(folder), '--json');
  return { ...ended, files: existsSync(at(folder)) ? readdirSync(at(folder)).sort() : [] };
}
async function check(...paths: string[]): Promise<CheckedFile[]> {
  const { stdout, stderr } = await tassel('check', ...paths, '--json');
  expect(stderr).toBe('');
  return stdout
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as CheckedFile);
}
const inMm = ({ width: w, unit, ppi }: CheckedFile) =>
  (w as number) * { px: 25.4 / (ppi ?? 96), mm: 1, pt: 25.4 / 72 }[unit ?? 'px'];

beforeAll(async () => {
  await tassel('type', 'Otterling', '--typeface', 'caveat', '--colour', '#1f5a45', '--out', at('typed.svg'));
  const mark = drawMark(420, 300, either(ring(210, 150, 130, 100), disc(210, 150, 40)), [31, 90, 69]);
  const png = await pngOf(onGround(mark, [250, 250, 250]));
  // What a camera writes down about its owner.
  const exif = {
    IFD0: { Artist: 'Somebody', Make: 'Camera', Copyright: 'Mine' },
    IFD3: { GPSLatitude: '51/1 30/1 0/1' },
  };
  writeFileSync(at('badge.jpg'), await sharp(png).jpeg({ quality: 95 }).withExif(exif).toBuffer());
});

describe('every format of every purpose that does something to a file', () => {
  // The others of the eight differ from web by the size that they start with alone.
  const treated = purposes.all.filter((p) => p.id === 'web' || p.treat);
  const lines = treated.flatMap((purpose) =>
    formats.all
      .filter((f) => !purpose.formats || purpose.formats.includes(f.id))
      .filter((f) => f.id !== 'jpeg' || ['stamp', 'keyColour'].includes(purpose.id))
      .flatMap((f) =>
        MARKS.filter((m) => f.accepts === 'pixels' || m.name === 'Typed').map((m) => ({
          ...{ mark: m.name, variant: 'colour', format: { id: f.id }, purpose: purpose.id },
          size: purpose.id === 'keyColour' ? { id: 'frame', params: { widthPx: 320, heightPx: 180 } } : width(260),
          name: `${m.name}-${purpose.id}-${f.id}`,
        })),
      ),
  );
  let files: string[] = [];
  beforeAll(async () => {
    const made = await make('all', lines);
    expect(made.stderr.split('\n').filter((l) => l && !l.includes('enlarged'))).toEqual([]);
    files = made.files;
  });
  const ending = (...endings: string[]) => files.filter((f) => endings.includes(f.split('.').pop() as string));

  it('is made, a pair as two', () => {
    const pairs = lines.filter((l) => l.purpose === 'maskPair').length;
    expect(files).toHaveLength(lines.length + pairs);
    expect(files).toContain('Badge-maskPair-tiff-mask.tif');
  });
  it('passes the readers of other people without a warning', () => {
    const fine = (program: string, args: (path: string) => string[], names: string[], silent = true) => {
      expect(names.length).toBeGreaterThan(0);
      for (const name of names) {
        const { status, stdout, stderr } = outside(program, ...args(at(`all/${name}`)));
        expect([name, status, silent ? stdout + stderr : stderr]).toEqual([
          name,
          0,
          silent ? expect.not.stringMatching(/warn|error|invalid/i) : '',
        ]);
      }
    };
    fine('pngcheck', (p) => ['-q', p], ending('png'));
    fine('tiffinfo', (p) => [p], ending('tif'), false);
    fine('xmllint', (p) => ['--noout', p], ending('svg'));
    fine('rsvg-convert', (p) => [p, '-o', at('seen.png')], ending('svg'));
    fine('qpdf', (p) => ['--check', p], ending('pdf'), false);
    fine('pdftoppm', (p) => ['-r', '40', p, at('seen')], ending('pdf'));
    fine('gs', (p) => ['-q', '-dSAFER', '-dBATCH', '-dNOPAUSE', '-sDEVICE=nullpage', p], ending('pdf', 'eps'));
    fine('identify', (p) => [p], ending('png', 'tif', 'webp', 'jpg', 'ico', 'avif'), false);
  });
  it('holds nothing of the original’s camera, place or author', () => {
    const { stdout } = outside(
      'exiftool',
      '-r',
      '-a',
      '-u',
      '-warning',
      '-gps:all',
      '-artist',
      '-author',
      '-make',
      '-copyright',
      at('all'),
    );
    expect(stdout).not.toMatch(/GPS|Artist|Author|Make|Copyright\s+:|Warning/);
    for (const name of files) expect(readFileSync(at(`all/${name}`)).includes('Somebody'), name).toBe(false);
  });
  it('is found as it was meant by check, and says so of every file', async () => {
    const found = await check(...files.map((f) => at(`all/${f}`)));
    for (const one of found) {
      // The colours of a pair are opaque: of a mark of one colour they are that colour alone.
      const isColours = /maskPair/.test(one.file) && !/-mask\./.test(one.file);
      expect([one.file, one.problems]).toEqual([one.file, isColours ? ['shows one flat colour'] : []]);
      expect(one).toMatchObject({ fonts: 0, interlaced: false, sha256: expect.stringMatching(/^[0-9a-f]{64}$/) });
      const isFlat = /stamp|keyColour|maskPair/.test(one.file) || one.format === 'eps';
      if (one.unit === 'px' && one.format !== 'svg') expect([one.file, one.hasAlpha]).toEqual([one.file, !isFlat]);
      // A thin line in an icon of 48 px may cover no pixel whole.
      const [least, most] = one.alphaRange as [number, number];
      if (!isFlat) expect([one.file, least, most > 240]).toEqual([one.file, 0, true]);
    }
  });
});

describe('sizes', () => {
  it('an exact box is filled to the pixel, less its clear space', async () => {
    const box = (paddingPct: number, align: string) => ({
      id: 'box',
      params: { widthPx: 360, heightPx: 180, paddingPct, align },
    });
    const { files } = await make('box', [
      { variant: 'black', size: box(0, 'centre'), format: { id: 'png' }, name: 'plain-{mark}' },
      { variant: 'black', size: box(5, 'lower-right'), format: { id: 'png' }, name: 'padded-{mark}' },
    ]);
    const found = await check(...files.map((f) => at(`box/${f}`)));
    for (const { file, width: w, height: h, extents: e } of found) {
      expect([w, h]).toEqual([360, 180]);
      if (!e) throw new Error('nothing visible');
      const pad = file.startsWith('padded') ? 18 : 0;
      const isFilled = e.width === 360 - 2 * pad || e.height === 180 - 2 * pad;
      expect([file, e, isFilled]).toEqual([file, e, true]);
      if (pad) expect([e.x + e.width, e.y + e.height]).toEqual([342, 162]);
    }
  });
  it('a frame is that many pixels, the mark inside the title-safe area', async () => {
    const params = { widthPx: 1920, heightPx: 1080, corner: 'lower-right', insetPct: 0, markPct: 20, safe: 'title' };
    const { files } = await make('frame', [
      { variant: 'reversed', size: { id: 'frame', params }, format: { id: 'png' } },
    ]);
    for (const one of await check(...files.map((f) => at(`frame/${f}`)))) {
      expect([one.width, one.height, one.cornersClear]).toEqual([1920, 1080, true]);
      const e = one.extents as NonNullable<CheckedFile['extents']>;
      expect([e.x + e.width, e.y + e.height]).toEqual([1824, 1026]);
      expect(e.width).toBe(384);
    }
  });
  it('a size on paper reads back within a twentieth of a millimetre, whatever the resolution', async () => {
    const lines = ['png', 'tiff', 'svg', 'pdf', 'eps'].flatMap((id) =>
      [300, 72].map((ppi) => ({
        ...{ mark: 'Typed', variant: 'black', format: { id }, name: `${id}-${ppi}` },
        size: { id: 'physical', params: { widthMm: 73.4, ppi } },
      })),
    );
    const stamp = { ...lines[0], format: { id: 'jpeg' }, purpose: 'stamp', name: 'jpeg-300' };
    const { files } = await make('paper', [...lines, stamp]);
    expect(files).toHaveLength(11);
    for (const one of await check(...files.map((f) => at(`paper/${f}`))))
      expect([one.file, Math.abs(inMm(one) - 73.4) < 0.05]).toEqual([one.file, true]);
  });
});

describe('settings of formats', () => {
  const line = { mark: 'Typed', variant: 'colour', size: { id: 'physical', params: { widthMm: 50, ppi: 300 } } };
  const text = (name: string) => readFileSync(at(`set/${name}`), 'latin1');
  beforeAll(async () => {
    const gradient = {
      id: 'gradient',
      params: {
        stops: [
          { at: 0, colour: '#ff0000' },
          { at: 0.5, colour: '#00ff00' },
          { at: 1, colour: '#0000ff' },
        ],
      },
    };
    const badge = { ...line, mark: 'Badge', size: width(240) };
    const { stderr } = await make('set', [
      { ...line, format: { id: 'pdf', params: { spot: 'Canal Green', bleedMm: 3, cropMarks: true } }, name: 'spot' },
      { ...line, format: { id: 'svg', params: { unit: 'px' } }, name: 'px' },
      { ...line, variant: { fill: gradient }, format: { id: 'eps' }, name: 'gradient' },
      { ...badge, format: { id: 'svg', params: { embed: true } }, name: 'embedded' },
      { ...badge, format: { id: 'pdf', params: { embed: true } }, name: 'embedded' },
      { ...badge, format: { id: 'tiff', params: { compression: 'lzw' } }, name: 'lzw' },
      { ...badge, format: { id: 'png', params: { profile: 'embedded' } }, name: 'icc' },
      { ...badge, format: { id: 'ico', params: { set: 'desktop' } }, name: 'icons' },
    ]);
    expect(stderr).toBe('');
  });
  it('a spot colour is one ink by its name, on a page with bleed and crop marks round what is cut', () => {
    expect(text('spot.pdf')).toMatch(/\/Separation\s*\/Canal#20Green\s*\/DeviceRGB/);
    const { stdout } = outside('pdfinfo', '-box', at('set/spot.pdf'));
    const box = (name: string) =>
      (new RegExp(`${name}: +([\\d. ]+)`).exec(stdout)?.[1] ?? '').trim().split(/ +/).map(Number);
    const [media, trim, bleed] = [box('MediaBox'), box('TrimBox'), box('BleedBox')];
    const mm = (points: number) => (points / 72) * 25.4;
    expect(mm(trim[2] - trim[0])).toBeCloseTo(50, 1);
    expect(mm(bleed[2] - bleed[0])).toBeCloseTo(56, 1);
    expect(mm(media[2] - media[0])).toBeCloseTo(72, 1);
  });
  it('more than one colour has no spot colour', async () => {
    const rimmed = { fill: { id: 'asIs' }, surrounds: [{ id: 'rim', params: { colour: '#ff0000' } }] };
    const { stderr } = await make('no', [{ ...line, variant: rimmed, format: { id: 'pdf', params: { spot: 'X' } } }]);
    expect(stderr).toContain('spot colour');
  });
  it('an SVG tells px where it is asked to, 96 to the inch', () =>
    expect(Number(/width="([\d.]+)"/.exec(text('px.svg'))?.[1])).toBeCloseTo((50 / 25.4) * 96, 1));
  it('a gradient in EPS is one, and goes from its first stop to its last', async () => {
    expect(text('gradient.eps')).toContain('/ShadingType 2');
    const args = ['-q', '-dSAFER', '-dBATCH', '-dNOPAUSE', '-dEPSCrop', '-sDEVICE=pngalpha', '-r150'];
    expect(outside('gs', ...args, `-sOutputFile=${at('g.png')}`, at('set/gradient.eps')).status).toBe(0);
    const { data, info } = await sharp(readFileSync(at('g.png')))
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const inked = Array.from({ length: info.width * info.height }, (_, i) => i).filter((i) => data[i * 4 + 3] === 255);
    const byColumn = inked.sort((a, b) => (a % info.width) - (b % info.width));
    const [first, last] = [byColumn[20] * 4, byColumn[byColumn.length - 20] * 4];
    expect([data[first] > 200, data[first + 2] < 40]).toEqual([true, true]);
    expect([data[last] < 40, data[last + 2] > 200]).toEqual([true, true]);
  });
  it('a mark of pixels goes into SVG and PDF as a picture only where it is asked to, and says so', async () => {
    const [svg, pdf] = await check(at('set/embedded.svg'), at('set/embedded.pdf'));
    expect([svg.pictures, pdf.pictures, svg.problems, pdf.problems]).toEqual([1, 1, [], []]);
    expect(svg.alphaRange).toEqual([0, 255]);
  });
  it('LZW, a whole profile, and icons of seven sizes', async () => {
    expect(outside('tiffinfo', at('set/lzw.tif')).stdout).toContain('LZW');
    const [png, ico] = await check(at('set/icc.png'), at('set/icons.ico'));
    expect([png.profile, ico.pictures, ico.width]).toEqual([expect.stringMatching(/sRGB/i), 7, 256]);
  });
});

describe('purposes', () => {
  const pixels = async (name: string) => {
    const { data, info } = await sharp(readFileSync(at(name)))
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return {
      ...info,
      at: (x: number, y: number) => [...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4)],
    };
  };
  it('a stamp is black on white whatever the variant, a key colour fills the whole frame', async () => {
    const format = { id: 'png' };
    await make('flat', [
      { mark: 'Badge', variant: 'reversed', size: width(300), format, purpose: 'stamp', name: 'stamp' },
      {
        ...{
          mark: 'Badge',
          variant: 'reversed',
          format,
          purpose: { id: 'keyColour', params: { key: 'blue' } },
          name: 'key',
        },
        size: { id: 'frame', params: { widthPx: 320, heightPx: 180, corner: 'centre', markPct: 50 } },
      },
    ]);
    const stamp = await pixels('flat/stamp.png');
    expect([stamp.at(0, 0), stamp.at(150, stamp.height >> 1)]).toEqual([
      [255, 255, 255, 255],
      [0, 0, 0, 255],
    ]);
    const key = await pixels('flat/key.png');
    expect([key.width, key.height, key.at(0, 0), key.at(319, 179), key.at(160, 90)]).toEqual([
      ...[320, 180, [0, 0, 255, 255], [0, 0, 255, 255]],
      [255, 255, 255, 255],
    ]);
  });
  it('a mask is white where the mark is, of the size and place of its colours, or the other way round', async () => {
    const line = { mark: 'Badge', variant: 'colour', size: width(300), format: { id: 'tiff' } };
    await make('pair', [
      { ...line, purpose: 'maskPair', name: 'a' },
      { ...line, purpose: { id: 'maskPair', params: { polarity: 'black', colours: 'clear' } }, name: 'b' },
      { ...line, format: { id: 'png' }, name: 'whole' },
    ]);
    for (const { file, hasAlpha } of await check(at('pair/a.tif'), at('pair/a-mask.tif'), at('pair/b.tif')))
      expect([file, hasAlpha]).toEqual([file, false]);
    const [colours, mask] = [await pixels('pair/whole.png'), await pixels('pair/a-mask.tif')];
    const [flat, turned] = [await pixels('pair/b.tif'), await pixels('pair/b-mask.tif')];
    expect([mask.width, mask.height]).toEqual([colours.width, colours.height]);
    for (let y = 0; y < mask.height; y += 7) {
      for (let x = 0; x < mask.width; x += 7) {
        const alpha = colours.at(x, y)[3];
        expect(mask.at(x, y)).toEqual([alpha, alpha, alpha, 255]);
        expect(turned.at(x, y)[0]).toBe(255 - alpha);
        expect(flat.at(x, y)).toEqual([...colours.at(x, y).slice(0, 3), 255]);
      }
    }
  });
  it.each([
    [{ format: { id: 'jpeg' } }, 'JPEG has no transparency'],
    [{ format: { id: 'svg' }, mark: 'Badge' }, 'this mark has none'],
    [{ format: { id: 'webp' }, purpose: 'maskPair' }, 'TIFF or PNG'],
    [{ size: width(2600), purpose: 'stamp' }, 'at most 2500 px'],
    [{ format: { id: 'bmp' } }, 'png, webp, avif, tiff, jpeg, svg, pdf, eps, ico'],
    [{ size: { id: 'square' } }, 'width, height, longEdge, box, frame, physical'],
    [{ purpose: 'poster' }, 'web, watermark, videoOverlay, icon, print, stamp, maskPair, keyColour'],
    [{ variant: 'pink' }, 'there are colour, black, reversed'],
    [{ name: 'a:b' }, 'character'],
    [{ name: 'a.jpg' }, 'ends in .png'],
    [{ mark: 'Other' }, 'there are Typed, Badge'],
    [{ colour: 'x' }, 'there is no "colour"'],
    [
      { variant: { fill: { id: 'asIs' }, casts: [{ id: 'shadow' }] }, format: { id: 'eps' }, mark: 'Typed' },
      'this mark has none',
    ],
  ])('%j is refused with the reason, and nothing is written', async (change, words) => {
    const line = { mark: 'Typed', variant: 'colour', size: width(200), format: { id: 'png' }, name: 'x' };
    const { stderr, code, files } = await make('refused', [
      { ...line, name: 'good' },
      { ...line, ...change },
    ]);
    expect(stderr).toContain(words);
    expect([code > 0, files]).toEqual([true, []]);
  });
  it('two files of one dictated name are refused before any is written', async () => {
    const line = { variant: 'colour', size: width(200), format: { id: 'png' }, name: 'TITLE.PNG' };
    const { stderr, files } = await make('clash', [line]);
    expect(stderr).toContain('Two files would be called "TITLE.PNG": Colour of Typed and Colour of Badge');
    expect(files).toEqual([]);
  });
});

describe('cutout', () => {
  it('writes other formats and sizes, by an option or by the ending', async () => {
    await tassel('cutout', at('badge.jpg'), '--out', at('c.webp'));
    await tassel('cutout', at('badge.jpg'), '--out', at('c.tif'), '--format', 'tiff', '--size', '200');
    await tassel('cutout', at('badge.jpg'), '--out', at('c.png'), '--size', '360x180');
    const found = await check(at('c.webp'), at('c.tif'), at('c.png'));
    expect(found.map((f) => [f.format, f.width, f.problems])).toEqual([
      ['webp', 420, []],
      ['tiff', 200, []],
      ['png', 360, []],
    ]);
    expect(found[2]).toMatchObject({ height: 180, extents: { y: 0, height: 180 } });
    const { stderr, code } = await tassel('cutout', at('badge.jpg'), '--out', at('d.pdf'), '--format', 'pdf');
    expect([code, stderr]).toEqual([2, expect.stringContaining('png, webp, avif, tiff, ico')]);
  });
});

describe('check', () => {
  beforeAll(async () => {
    const interlaced = await sharp(readFileSync(at('badge.jpg')))
      .png({ progressive: true })
      .withMetadata({ density: 144 })
      .toBuffer();
    writeFileSync(at('own.png'), interlaced);
  });
  it('tells what a file of somebody else holds that it should not', async () => {
    const [jpeg] = await check(at('badge.jpg'));
    expect(jpeg).toMatchObject({
      format: 'jpeg',
      width: 420,
      height: 300,
      hasAlpha: false,
      problems: ['holds EXIF data'],
    });
    const [png] = await check(at('own.png'));
    expect([png.interlaced, Math.round(png.ppi as number), png.cornersClear]).toEqual([true, 144, false]);
  });
  it('names a file that it cannot read, and ends with 1', async () => {
    writeFileSync(at('note.txt'), 'hello');
    writeFileSync(at('cut.png'), readFileSync(at('own.png')).subarray(0, 3000));
    writeFileSync(
      at('other.gif'),
      await sharp(readFileSync(at('badge.jpg')))
        .gif()
        .toBuffer(),
    );
    expect((await check(at('other.gif')))[0]).toMatchObject({ format: 'gif', width: 420, problems: [] });
    for (const name of ['note.txt', 'cut.png']) {
      const { stdout, code } = await tassel('check', at(name), '--json');
      expect(code).toBe(1);
      expect((JSON.parse(stdout) as CheckedFile).problems[0]).toContain(name);
    }
  });
});

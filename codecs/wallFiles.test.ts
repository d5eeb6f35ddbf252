import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import type { Drawing } from '../core/artwork/drawing';
import { PathBuilder } from '../core/vector/path';
import { disc, drawMark, onGround, pixel } from '../tests/support/pictures';
import { renderSvgFile } from './renderSvg';
import { type MadeFile, type WallPlace, slotPictures, stemOf, wallFiles } from './wallFiles';

const SLOT = { width: 120, height: 60, padding: 6 };
const GREY = [240, 238, 230] as const;
const BOX = { x: 40, y: 10, width: 40, height: 40 };

const pixels = artworkOfRaster(drawMark(80, 80, disc(40, 40, 40), [31, 90, 69]));
const square = new PathBuilder().moveTo(0, 0).lineTo(80, 0).lineTo(80, 80).lineTo(0, 80).close().done();
const drawing: Drawing = {
  ...{ widthPx: 80, heightPx: 80 },
  shapes: [{ id: 'a', path: square, rule: 'nonzero', paint: { kind: 'colour', hex: '#b3261e' }, opacity: 1 }],
};
const place = (file: string, change: Partial<WallPlace> = {}): WallPlace => ({
  ...{ file, title: file, box: BOX, artwork: pixels, ...change },
});
const places = [
  place('logos/tillerhand.png'),
  place('Osier & Reed.svg', { artwork: artworkOfDrawing(drawing), title: 'Osier "&" <Reed>' }),
  place('tillerhand.jpg'),
  place('wall.webp'),
];
const plan = { title: 'Partners <of the towpath>', slot: SLOT, ground: GREY, places };

const rawOf = async (bytes: Uint8Array) => {
  const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return {
    info,
    at: (x: number, y: number) => [...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4)],
  };
};

describe('a wall’s files', () => {
  let files: Map<string, Uint8Array>;
  beforeAll(async () => {
    files = new Map((await wallFiles(plan)).map(({ name, bytes }: MadeFile) => [name, bytes]));
  });
  const file = (name: string) => files.get(name) as Uint8Array;
  const page = () => new TextDecoder().decode(file('wall.html'));

  it('have the names of those that they replace; two of one name, or called as the wall, get a number', () =>
    expect([...files.keys()]).toEqual([
      ...['tillerhand.png', 'tillerhand@2x.png', 'Osier & Reed.png', 'Osier & Reed@2x.png', 'Osier & Reed.svg'],
      ...[
        'tillerhand-2.png',
        'tillerhand-2@2x.png',
        'wall-2.png',
        'wall-2@2x.png',
        'wall.png',
        'wall.html',
        'wall.pdf',
      ],
    ]));
  it('fill their slots at once and twice its size, the mark where it stands and clear round it', async () => {
    for (const [name, factor] of [
      ['tillerhand.png', 1],
      ['tillerhand@2x.png', 2],
    ] as const) {
      const { info, at } = await rawOf(file(name));
      expect([info.width, info.height]).toEqual([120 * factor, 60 * factor]);
      expect(at(60 * factor, 30 * factor)).toEqual([31, 90, 69, 255]);
      expect(at(38 * factor, 30 * factor)[3]).toBe(0);
    }
  });
  it('are paths where there are any, on a page as large as the slot', async () => {
    const svg = new TextDecoder().decode(file('Osier & Reed.svg'));
    expect(svg).toMatch(/viewBox="0 0 120 60"/);
    const drawn = renderSvgFile(svg, 120, 60);
    const red = [179, 38, 30, 255];
    expect([pixel(drawn, 41, 11), pixel(drawn, 78, 48), pixel(drawn, 38, 30)[3]]).toEqual([red, red, 0]);
  });
  it('are all on one picture', async () => {
    const { info, at } = await rawOf(file('wall.png'));
    expect([info.width, info.height, info.channels]).toEqual([480, 60, 4]);
    expect([at(1, 1), at(60, 30), at(180, 30)]).toEqual([
      [...GREY, 255],
      [31, 90, 69, 255],
      [179, 38, 30, 255],
    ]);
  });
  it('are shown by a page that says what they are, and where names stay text', () => {
    expect(page()).toContain('<title>Partners &#60;of the towpath&#62;</title>');
    expect(page()).toContain('src="tillerhand.png" srcset="tillerhand%402x.png 2x" width="120" height="60"');
    expect(page()).toContain(
      'src="Osier%20%26%20Reed.svg" width="120" height="60" alt="Osier &#34;&#38;&#34; &#60;Reed&#62;"',
    );
    expect(page().match(/<img /g)).toHaveLength(4);
    for (const [, name] of page().matchAll(/(?:src|srcset)="([^" ]+)/g))
      expect([...files.keys()]).toContain(decodeURIComponent(name));
  });
  it('are printed at 96 pixels to the inch', async () => {
    const [sheet] = (await PDFDocument.load(file('wall.pdf'))).getPages();
    expect(sheet.getSize()).toEqual({ width: 360, height: 45 });
  });
});

it('a photo lies under every slot, and goes with the page', async () => {
  const photo = onGround(drawMark(300, 300, disc(150, 150, 400), [40, 60, 80]), [0, 0, 0]);
  const files = await wallFiles({ ...plan, ground: photo, places: places.slice(0, 2) });
  const named = (name: string) => files.find((f) => f.name === name)?.bytes as Uint8Array;
  const { at } = await rawOf(named('wall.png'));
  expect([at(2, 2), at(122, 2)]).toEqual([
    [40, 60, 80, 255],
    [40, 60, 80, 255],
  ]);
  expect(new TextDecoder().decode(named('wall.html'))).toContain('url(wall-ground.jpg)');
  expect((await sharp(named('wall-ground.jpg')).metadata()).format).toBe('jpeg');
});

it('slots as pictures alone are twice their size', async () => {
  const made = await slotPictures(plan);
  expect(made.map((f) => f.name)).toEqual(places.map((p) => p.file));
  expect((await rawOf(made[0].bytes)).info).toMatchObject({ width: 240, height: 120 });
});

it.each([
  ['pictures/a.b.png', 'a.b'],
  ['C:\\logos\\mark.PNG', 'mark'],
  ['a:b*c?.svg', 'a-b-c-'],
  ['..png', 'logo'],
  ['.png', 'logo'],
  ['no ending', 'no ending'],
])('the name %j goes on as %j', (file, stem) => expect(stemOf(file)).toBe(stem));

import { describe, expect, it } from 'vitest';
import { artworkOfDrawing, artworkOfRaster } from '../artwork/artwork';
import { createRaster } from '../raster/raster';
import { fitPhoto } from './fitPhoto';
import { flatRaster, layVariant, placeItem, placeThroughout, stripOn, viewOf } from './placeItem';
import { type MarkItem, readPlacement } from './readPlacement';

const item = (change: object = {}) => readPlacement({ items: [{ mark: 'm', ...change }] }).items[0] as MarkItem;
const box = (hex: string) =>
  artworkOfDrawing({
    widthPx: 40,
    heightPx: 20,
    shapes: [
      {
        ...{ id: 'a', rule: 'nonzero' as const, opacity: 1, paint: { kind: 'colour' as const, hex } },
        path: { verbs: 'MLLLZ', coords: [0, 0, 40, 0, 40, 20, 0, 20] },
      },
    ],
  });
const variants = (turn = 0) => ['#000000', '#ffffff'].map((hex) => layVariant({ id: hex, name: hex }, box(hex), turn));
const split = (left: string, right: string) => {
  const out = flatRaster(200, 100, left);
  const half = flatRaster(100, 100, right);
  for (let y = 0; y < 100; y++) out.data.set(half.data.subarray(y * 400, (y + 1) * 400), (y * 200 + 100) * 4);
  return out;
};

describe('a mark on a ground', () => {
  it('is the variant that reads best right there', async () => {
    const ground = viewOf(split('#202020', '#f0f0f0'), false);
    const at = (name: string) => placeItem(ground, item({ at: name, size: '20px', inset: '20px' }), variants());
    expect([(await at('left')).variant, (await at('right')).variant]).toEqual(['#ffffff', '#000000']);
    const right = await at('right');
    expect(right.box).toEqual({ x: 160, y: 45, width: 20, height: 10 });
    expect(right.standing?.shareAbove3).toBe(1);
    expect(right.tried.map((t) => t.id)).toEqual(['#000000', '#ffffff']);
  });
  it('reads worse the less opaque it is', async () => {
    const ground = viewOf(flatRaster(200, 100, '#808080'), false);
    const ratio = async (opacity: number) =>
      (await placeItem(ground, item({ opacity, size: '40px' }), variants().slice(0, 1))).standing?.ratio as number;
    expect(await ratio(0.3)).toBeLessThan((await ratio(1)) * 0.6);
  });
  it('has its extents within the inset however it is turned', async () => {
    const ground = viewOf(flatRaster(200, 100, '#ffffff'), false);
    const { box: b, raster } = await placeItem(
      ground,
      item({ turnDeg: 90, size: '40px', inset: '7px', at: 'upper-left' }),
      variants(90),
    );
    expect(b).toEqual({ x: 7, y: 7, width: 20, height: 40 });
    expect([raster.width, raster.height]).toEqual([20, 40]);
    const slanted = await placeItem(ground, item({ turnDeg: 30, size: '40px' }), variants(30));
    // 44.6 × 37.3, 40·cos 30° + 20·sin 30° wide: on whole pixels, its proportions kept.
    expect([slanted.box.width, slanted.box.height]).toEqual([45, 38]);
  });
  it('of pixels turns as one of paths does', () => {
    const own = createRaster(40, 20);
    own.data.fill(255);
    const turned = layVariant({ id: 'p', name: 'p' }, artworkOfRaster(own), 90);
    expect([turned.turned.width, turned.turned.height]).toEqual([20, 40]);
  });
  it('that follows others is the one that is never lost', async () => {
    const grounds = ['#ffffff', '#ffffff', '#000000'].map((hex) => viewOf(flatRaster(200, 100, hex), false));
    const red = layVariant({ id: 'red', name: 'red' }, box('#d02020'), 0);
    const found = await placeThroughout(grounds, item({ size: '40px' }), [...variants(), red]);
    expect(found.variant).toBe('red');
    expect(found.tried.map((t) => t.moments.length)).toEqual([3, 3, 3]);
    expect(found.tried[0].standing.worst?.ratio).toBeLessThan(1.05);
  });
});

describe('a strip', () => {
  it.each([
    ['upper', { x: 0, y: 0, width: 64, height: 5 }],
    ['lower', { x: 0, y: 31, width: 64, height: 5 }],
    ['left', { x: 0, y: 0, width: 5, height: 36 }],
    ['right', { x: 59, y: 0, width: 5, height: 36 }],
  ])('lies along its %s edge from end to end', (edge, expected) => {
    const strip = { strip: { colour: '#102030', edge, heightPx: 5 } };
    const { items } = readPlacement({ items: [strip] });
    const found = stripOn({ width: 64, height: 36 }, items[0] as never);
    expect(found.box).toEqual(expected);
    expect([...found.raster.data.subarray(0, 4)]).toEqual([0x10, 0x20, 0x30, 255]);
  });
});

describe('a photo in a frame', () => {
  const photo = { width: 1920, height: 1080 };
  const frame = { width: 640, height: 480 };
  it('fills it, cut evenly on both sides', () =>
    expect(fitPhoto(photo, frame, 'fill')).toEqual({
      from: { x: 240, y: 0, width: 1440, height: 1080 },
      to: { x: 0, y: 0, width: 640, height: 480 },
    }));
  it('lies inside whole', () =>
    expect(fitPhoto(photo, frame, 'fit').to).toEqual({ x: 0, y: 60, width: 640, height: 360 }));
  it('is pulled to its shape', () =>
    expect(fitPhoto(photo, frame, 'stretch')).toEqual({
      from: { x: 0, y: 0, width: 1920, height: 1080 },
      to: { x: 0, y: 0, width: 640, height: 480 },
    }));
  it('fills a part of it', () => {
    const part = { x: 0, y: 0, width: 640, height: 320 };
    expect(fitPhoto(photo, { width: 640, height: 360 }, part)).toEqual({
      from: { x: 0, y: 60, width: 1920, height: 960 },
      to: part,
    });
  });
});

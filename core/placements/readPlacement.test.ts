import { describe, expect, it } from 'vitest';
import { lengthText, readLength, widthPx } from './lengths';
import { frameOf, readPlacement } from './readPlacement';

describe('a placement as it is given', () => {
  it('starts with what a command starts with, and takes a strip where a mark stands', () => {
    const { items, fit, frame } = readPlacement({
      items: [{ mark: 'a.svg' }, { mark: { strip: 'white', edge: 'bottom', heightPx: 40 } }],
    });
    expect(items[0]).toEqual({
      ...{ mark: 'a.svg', variant: 'auto', at: 'lower-right', opacity: 1, blend: 'normal', turnDeg: 0 },
      ...{ inset: { value: 4, unit: 'pct' }, size: { value: 18, unit: 'pct' } },
    });
    expect(items[1]).toEqual({
      strip: { colour: '#ffffff', edge: 'lower', heightPx: 40 },
      ...{ opacity: 1, blend: 'normal' },
    });
    expect([fit, frame]).toEqual(['fill', null]);
  });
  it('reads back as it was read', () => {
    const read = readPlacement({
      items: [
        { mark: 'm', variant: ['black', 'reversed'], at: '10,20.5', size: '30% of area', inset: '12mm', turnDeg: -8 },
        { strip: { colour: '#000', edge: 'left', heightPx: 3 }, opacity: 0.5, blend: 'multiply' },
      ],
      fit: { x: 0, y: 20, width: 640, height: 320 },
      frame: '640x360:#102030',
    });
    expect(readPlacement(JSON.parse(JSON.stringify(read)))).toEqual(read);
    expect(read.frame).toEqual({ width: 640, height: 360, colour: '#102030' });
  });
  it.each([
    [{}, 'items: expected a list'],
    [{ items: [] }, 'items: expected a list'],
    [{ items: [{}] }, 'items[0].mark: expected a mark, or a strip'],
    [{ items: [{ mark: 'a', at: 'middle' }] }, 'items[0].at takes upper-left'],
    [{ items: [{ mark: 'a', size: '0' }] }, 'items[0].size takes a number from 0.01'],
    [{ items: [{ mark: 'a', inset: '5% of depth' }] }, 'items[0].inset takes'],
    [{ items: [{ mark: 'a', blend: 'glow' }] }, 'items[0].blend: expected normal, multiply'],
    [{ items: [{ mark: 'a', opacity: 2 }] }, 'items[0].opacity: expected a number 0 to 1, got 2'],
    [{ items: [{ mark: 'a', shadow: true }] }, 'items[0]: there is no "shadow"'],
    [{ items: [{ strip: 'pinkish', heightPx: 3 }] }, 'items[0].strip.colour: expected a colour'],
    [{ items: [{ strip: '#fff', heightPx: 0 }] }, 'items[0].strip.heightPx: expected whole pixels'],
    [{ items: [{ mark: 'a' }], fit: 'crop' }, 'fit: expected fill, fit, stretch'],
    [{ items: [{ mark: 'a' }], fit: { x: 0, y: 0, width: 0, height: 3 } }, 'fit.width: expected'],
    [{ items: [{ mark: 'a' }], frame: '3x4' }, 'A frame has sides of 8 to 16384 px'],
  ])('%j is refused with the reason', (value, words) => expect(() => readPlacement(value)).toThrow(words));
  it('tells a frame from a name', () => {
    expect(frameOf('photo.jpg')).toBeNull();
    expect(() => frameOf('640x360:pinkish')).toThrow('is no colour');
  });
});

describe('lengths', () => {
  it.each(['4%', '20px', '12.5mm', '30% of area', '9% of short side'])('%s is told as it was typed', (text) =>
    expect(lengthText(readLength(text, 'size'))).toBe(text),
  );
  it('of shares are of the side that is named', () => {
    const [ground, mark] = [
      { width: 1000, height: 500 },
      { width: 40, height: 20 },
    ];
    const of = (text: string) => widthPx(readLength(text, 'size'), ground, mark, 254);
    // A tenth of the area is 50 000 px², 316 × 158 at two to one.
    expect(['20%', '20% of height', '20% of short side', '25mm'].map(of)).toEqual([200, 200, 100, 250]);
    expect(of('10% of area')).toBeCloseTo(Math.sqrt(100_000), 6);
  });
});

import { describe, expect, it } from 'vitest';
import { plainCapture, simulateCapture } from '../capture/simulateCapture';
import { deltaE, oklabFromSrgb } from '../colour/oklab';
import { rgbFromHex } from '../colour/hex';
import { signaturePath, signatureStrokes } from '../../demo/marks/signatures';
import { renderSvg } from '../../demo/render';
import { cutOutInk, plainInk } from './cutOutInk';

const look = { width: 11, thinning: 0.4 };
const sign = (seed: number, y: number, ink: string, scale = 0.5) =>
  `<path d="${signaturePath(signatureStrokes(seed), 70, y, scale, -3, look)}" fill="${ink}" fill-rule="nonzero"/>`;
const photograph = (body: string, height = 620, change = {}) =>
  simulateCapture(renderSvg(body, 760, height), { ...plainCapture, falloff: 0.2, noise: 2, blurPx: 0.6, ...change })
    .picture;
const off = (hex: string, ink: string) => deltaE(oklabFromSrgb(...rgbFromHex(hex)), oklabFromSrgb(...rgbFromHex(ink)));

describe('the inks of a sheet', () => {
  it('each signature has its own colour', () => {
    const inks = ['#1f3a93', '#22222a', '#b3242b'];
    const { picture, facts } = cutOutInk(
      photograph(inks.map((ink, k) => sign(k + 3, 170 + k * 260, ink, 0.42)).join(''), 800),
      plainInk,
    );
    expect(facts.marks).toHaveLength(3);
    facts.marks.forEach((m, k) => expect(off(m.inkHex, inks[k]), m.inkHex).toBeLessThan(5));
    // And in the picture: the strongest pixel of each mark has its colour.
    for (const [k, { box }] of facts.marks.entries()) {
      let best = -1;
      for (let y = box.y; y < box.y + box.height; y++)
        for (let x = box.x; x < box.x + box.width; x++) {
          const i = (y * picture.width + x) * 4;
          if (best < 0 || picture.data[i + 3] > picture.data[best + 3]) best = i;
        }
      const hex = `#${[0, 1, 2].map((c) => picture.data[best + c].toString(16).padStart(2, '0')).join('')}`;
      expect(off(hex, inks[k])).toBeLessThan(5);
    }
  });
  it('a name signed on with a second pen keeps both colours, one pen stays one', () => {
    const both =
      `<path d="M80 200Q160 60 240 190T400 190T560 180" fill="none" stroke="#22222a" stroke-width="9"/>` +
      `<path d="M120 250Q320 220 600 240" fill="none" stroke="#b3242b" stroke-width="9"/>`;
    const coloursOf = (body: string) => {
      const { picture } = cutOutInk(photograph(body, 360), plainInk);
      const count = new Map<string, number>();
      for (let i = 0; i < picture.data.length; i += 4)
        if (picture.data[i + 3] > 128) {
          const key = [...picture.data.slice(i, i + 3)].join();
          count.set(key, (count.get(key) ?? 0) + 1);
        }
      return [...count.keys()].map((k) => k.split(',').map(Number));
    };
    const two = coloursOf(both);
    expect(two).toHaveLength(2);
    expect(two.map(([r, , b]) => r - b).sort((p, q) => p - q)[1], 'the red one').toBeGreaterThan(90);
    expect(coloursOf(both.replace('#b3242b', '#22222a'))).toHaveLength(1);
  });
  it('thin strokes of a dark pen are known to be dark, a pencil stays grey', () => {
    const thin = (ink: string, width: number) => {
      const body =
        `<path d="M80 200Q160 60 240 190T400 190T560 180T700 150" fill="none" stroke="${ink}" ` +
        `stroke-width="${width}"/>`;
      return cutOutInk(photograph(body, 360, { blurPx: 0.9 }), plainInk).facts.inkHex;
    };
    expect(off(thin('#18181c', 2), '#18181c')).toBeLessThan(12);
    expect(off(thin('#77777b', 7), '#77777b')).toBeLessThan(4);
  });
});

import { describe, expect, it } from 'vitest';
import { disc, drawMark, either, ring } from '../../tests/support/pictures';
import { type Artwork, artworkOfRaster } from '../artwork/artwork';
import { casts } from '../casts';
import { initialValues } from '../params';
import { surrounds } from '../surrounds';
import type { Rgb } from '../colour/hex';
import { contrastRatio, luminance } from '../raster/contrast';
import { type Raster, createRaster } from '../raster/raster';
import { seededRandom } from '../seededRandom';
import { bestStanding, measureStanding, outlineMark } from './standing';

const NOWHERE = { x: 0, y: 0 };
const mark = (rgb: Rgb) => drawMark(160, 120, ring(80, 60, 50, 34), rgb);
const outlined = (rgb: Rgb) => outlineMark(mark(rgb));
function photo(width: number, height: number, at: (x: number, y: number) => Rgb): Raster {
  const out = createRaster(width, height);
  for (let y = 0, p = 0; y < height; y++) for (let x = 0; x < width; x++, p += 4) out.data.set([...at(x, y), 255], p);
  return out;
}

describe('how well a mark can be seen', () => {
  it.each([
    [
      [0, 0, 0],
      [255, 255, 255],
    ],
    [
      [31, 90, 69],
      [233, 221, 196],
    ],
    [
      [255, 255, 255],
      [181, 50, 43],
    ],
  ] as [Rgb, Rgb][])('of %s on %s is its WCAG ratio, and all or nothing of the outline', (own, ground) => {
    const ratio = contrastRatio(luminance(...own), luminance(...ground));
    const found = measureStanding(outlined(own), ground, NOWHERE);
    expect(Math.abs(found.ratio - ratio)).toBeLessThan(0.05);
    expect(found.shareAbove3).toBe(ratio >= 3 ? 1 : 0);
    expect(Math.abs((found.worst?.ratio ?? 0) - ratio)).toBeLessThan(0.05);
  });
  it('on a photo is that of the outline, with the worst place where it is lost', () => {
    const halves = photo(400, 300, (x) => (x < 180 ? [250, 250, 250] : [20, 20, 20]));
    const found = measureStanding(outlined([255, 255, 255]), halves, { x: 100, y: 90 });
    // The ring's middle lies right on the border between light and dark.
    expect(Math.abs(found.shareAbove3 - 0.5)).toBeLessThan(0.03);
    expect(found.worst?.ratio).toBeLessThan(1.1);
    expect(found.worst?.x).toBeLessThan(180);
    const moved = measureStanding(outlined([255, 255, 255]), halves, { x: 230, y: 90 });
    expect([moved.shareAbove3, moved.ratio > 16]).toEqual([1, true]);
  });
  it('counts what shows of a mark that is half clear', () => {
    const faint = drawMark(160, 120, (x, y) => disc(80, 60, 50)(x, y) * 0.5, [0, 0, 0]);
    const found = measureStanding(
      outlineMark(faint),
      photo(160, 120, () => [255, 255, 255]),
      NOWHERE,
    );
    expect(Math.abs(found.ratio - contrastRatio(luminance(127, 127, 127), 1))).toBeLessThan(0.1);
  });
  it('is none of a mark that is not there', () => {
    const none = drawMark(40, 40, () => 0, [0, 0, 0]);
    expect(measureStanding(outlineMark(none), [255, 255, 255], NOWHERE)).toEqual({
      ratio: 1,
      shareAbove3: 0,
      worst: null,
    });
  });
  it('tells the better of two on busy ground', () => {
    const busy = photo(300, 200, (x, y) => (((x >> 3) + (y >> 3)) % 3 ? [40, 52, 60] : [150, 150, 140]));
    const all = [
      [0, 0, 0],
      [255, 255, 255],
    ].map((rgb) => measureStanding(outlined(rgb as unknown as Rgb), busy, { x: 60, y: 40 }));
    expect(bestStanding(all)).toBe(1);
    expect(bestStanding([])).toBe(-1);
    // Of shares that are alike the stronger contrast, whatever their order.
    const like = [0.97, 1, 0.99].map((shareAbove3, k) => ({ shareAbove3, ratio: 5 + k * 2, worst: null }));
    expect([bestStanding(like), bestStanding([...like].reverse())]).toEqual([2, 0]);
  });
});

describe('on ten made-up photos', () => {
  // Each its own mixture of tones, so that now the dark and now the light mark reads better.
  const photos = Array.from({ length: 10 }, (_, seed) => {
    const random = seededRandom(seed + 1);
    const [base, swing, wide] = [30 + 200 * random(), 20 + 60 * random(), 12 + 40 * random()];
    const tint = [random() * 30, random() * 30, random() * 30];
    return photo(320, 220, (x, y) => {
      const wave = Math.sin(x / wide + seed) * Math.cos(y / (wide * 0.7)) * swing;
      return tint.map((t) => Math.min(255, Math.max(0, Math.round(base + wave + t)))) as unknown as Rgb;
    });
  });
  /** Contrast across the outline in the composite itself, place by place along rays from the ring's middle. */
  function acrossOutline(ground: Raster, own: Rgb): number {
    const at = { x: 80, y: 50 };
    const shape = mark(own);
    const shown = (x: number, y: number): Rgb => {
      const p = (Math.floor(y - at.y) * shape.width + Math.floor(x - at.x)) * 4;
      const g = (Math.floor(y) * ground.width + Math.floor(x)) * 4;
      const a = shape.data[p + 3] / 255;
      return [0, 1, 2].map((c) => Math.round(shape.data[p + c] * a + ground.data[g + c] * (1 - a))) as unknown as Rgb;
    };
    let [above, count] = [0, 0];
    for (let k = 0; k < 360; k++) {
      const [cos, sin] = [Math.cos((k * Math.PI) / 180), Math.sin((k * Math.PI) / 180)];
      for (const [inside, outside] of [
        [47.5, 52.5],
        [36.5, 31.5],
      ]) {
        const lum = (r: number) => luminance(...shown(at.x + 80 + cos * r, at.y + 60 + sin * r));
        above += contrastRatio(lum(inside), lum(outside)) >= 3 ? 1 : 0;
        count++;
      }
    }
    return above / count;
  }
  it('the variant that is recommended is the one that stands out more in the composite', () => {
    const inks: Rgb[] = [
      [0, 0, 0],
      [255, 255, 255],
      [31, 90, 69],
    ];
    const chosen = photos.map((ground) => {
      const best = bestStanding(inks.map((rgb) => measureStanding(outlined(rgb), ground, { x: 80, y: 50 })));
      const shares = inks.map((rgb) => acrossOutline(ground, rgb));
      expect(shares[best]).toBeGreaterThanOrEqual(Math.max(...shares) - 0.02);
      return best;
    });
    expect(new Set(chosen).size).toBeGreaterThan(1);
  });
});

describe('the finished variant, as an eye meets it', () => {
  const apply = (artwork: Artwork, parts: readonly { id: string; params: object }[], own: 'surrounds' | 'casts') => {
    const registry = own === 'surrounds' ? surrounds : casts;
    return parts.reduce((a, { id, params }) => {
      const d = registry.get(id);
      const ctx = { reduction: 1, palette: [], pxLength: 1, mmLength: 12, markHeightPx: 100 };
      return d.apply(a, { ...initialValues(d.params), ...params } as never, ctx);
    }, artwork);
  };
  const variant = (ink: Rgb, round: readonly { id: string; params: object }[] = [], cast: typeof round = []) => {
    const plain = artworkOfRaster(drawMark(240, 200, either(disc(90, 100, 50), disc(160, 100, 40)), ink));
    const { raster } = apply(apply(plain, round, 'surrounds'), cast, 'casts');
    return outlineMark(raster);
  };
  const black: Rgb = [12, 12, 14];
  const rim = (colour: string) => ({ id: 'rim', params: { colour, width: 8, unit: 'px' } });
  it('a black mark with a white rim is plain to see on black, and on white by the mark within', () => {
    const own = variant(black, [rim('#ffffff')]);
    for (const ground of [black, [255, 255, 255] as Rgb]) {
      const found = measureStanding(own, ground, NOWHERE);
      expect([found.ratio > 15, found.shareAbove3 > 0.95]).toEqual([true, true]);
    }
  });
  it('along an edge that is nearly upright or level no tone slips into the next', () => {
    const [cos, sin] = [Math.cos(0.05), Math.sin(0.05)];
    const half = (v: number, reach: number) => Math.min(1, Math.max(0, reach - Math.abs(v) + 0.5));
    const tilted = drawMark(
      300,
      260,
      (x, y) => {
        const [u, v] = [(x - 150) * cos + (y - 130) * sin, (y - 130) * cos - (x - 150) * sin];
        return half(u, 90) * half(v, 60);
      },
      black,
    );
    const { raster } = apply(artworkOfRaster(tilted), [rim('#ffffff')], 'surrounds');
    const found = measureStanding(outlineMark(raster), [255, 255, 255], NOWHERE);
    expect([found.ratio > 15, found.shareAbove3 > 0.95]).toEqual([true, true]);
  });
  it('a rim of the mark’s own tone does not bring it back', () => {
    expect(measureStanding(variant(black, [rim('#141416')]), black, NOWHERE).ratio).toBeLessThan(1.3);
  });
  it('stands on its own plate or silhouette whatever lies beneath', () => {
    for (const id of ['plate', 'silhouette']) {
      const own = variant(black, [{ id, params: id === 'plate' ? { colour: '#ffffff' } : { fill: '#ffffff' } }]);
      expect([id, measureStanding(own, [255, 255, 255], NOWHERE).ratio > 15]).toEqual([id, true]);
    }
  });
  it('a light glow sets a black mark off from black, as far as it is light beside the edge', () => {
    const glow = { id: 'glow', params: { colour: '#ffffff' } };
    expect(measureStanding(variant(black), black, NOWHERE).ratio).toBeLessThan(1.1);
    expect(measureStanding(variant(black, [], [glow]), black, NOWHERE).ratio).toBeGreaterThan(2);
  });
  // Truth by what was drawn: the best contrast of tones that lie next to each other, from the ground inwards.
  const hex = (v: number) => `#${v.toString(16).padStart(2, '0').repeat(3)}`;
  const ratioOf = (a: number, b: number) => contrastRatio(luminance(a, a, a), luminance(b, b, b));
  const ids = ['rim', 'plate', 'silhouette', 'none'] as const;
  /** A variant of two greys, and what stands out of it on a ground. */
  function made(id: (typeof ids)[number], mark: number, round: number) {
    const parts = {
      rim: [rim(hex(round))],
      plate: [{ id, params: { colour: hex(round) } }],
      silhouette: [{ id, params: { fill: hex(round) } }],
      none: [],
    }[id];
    const truthOn = (ground: number) => {
      const tones = id === 'none' ? [ground, mark] : [ground, round, mark];
      return Math.max(...tones.slice(1).map((v, k) => ratioOf(v, tones[k])));
    };
    return { outlined: variant([mark, mark, mark], parts), truthOn };
  }
  const greysOf = (random: () => number) => () => Math.round(255 * random() ** 1.5);
  it('is on the right side of 3 : 1 for a hundred rims, plates and silhouettes on colours', () => {
    const random = seededRandom(77);
    const grey = greysOf(random);
    let [right, all] = [0, 0];
    while (all < 100) {
      const [mark, round, ground] = [grey(), grey(), grey()];
      const { outlined: own, truthOn } = made(ids[Math.floor(random() * ids.length)], mark, round);
      const truth = truthOn(ground);
      // On the very line either side is right.
      if (Math.abs(truth - 3) < 0.15) continue;
      all++;
      const { ratio } = measureStanding(own, [ground, ground, ground], NOWHERE);
      if (ratio >= 3 === truth >= 3) right++;
    }
    expect(right).toBeGreaterThanOrEqual(98);
  });
  it('recommends the variant that stands out most, of four on each of a hundred grounds', () => {
    const random = seededRandom(1909);
    const grey = greysOf(random);
    let right = 0;
    for (let k = 0; k < 100; k++) {
      const ground = grey();
      const four = ids.map((id) => made(id, grey(), grey()));
      const seen = four.map(({ outlined: own }) => measureStanding(own, [ground, ground, ground], NOWHERE));
      const truth = four.map(({ truthOn }) => truthOn(ground));
      // Nobody tells two contrasts apart that are so near.
      if (truth[bestStanding(seen)] >= Math.max(...truth) * 0.95) right++;
    }
    expect(right).toBeGreaterThanOrEqual(95);
  });
});

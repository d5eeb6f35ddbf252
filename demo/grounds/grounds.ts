import type { Raster } from '../../core/raster/raster';
import { seededRandom } from '../../core/seededRandom';

/** Smooth random relief in 0..1, several octaves over a lattice. */
function makeNoise(seed: number): (x: number, y: number, octaves: number) => number {
  const random = seededRandom(seed);
  const lattice = Float64Array.from({ length: 4096 }, random);
  const at = (x: number, y: number) => lattice[(((x & 63) << 6) | (y & 63)) & 4095];
  const ease = (t: number) => t * t * (3 - 2 * t);
  const one = (x: number, y: number) => {
    const [x0, y0] = [Math.floor(x), Math.floor(y)];
    const [u, v] = [ease(x - x0), ease(y - y0)];
    const top = at(x0, y0) * (1 - u) + at(x0 + 1, y0) * u;
    const bottom = at(x0, y0 + 1) * (1 - u) + at(x0 + 1, y0 + 1) * u;
    return top * (1 - v) + bottom * v;
  };
  return (x, y, octaves) => {
    let sum = 0;
    let weight = 0;
    for (let k = 0, size = 1; k < octaves; k++, size *= 2) {
      sum += one(x * size, y * size) / size;
      weight += 1 / size;
    }
    return sum / weight;
  };
}

type Colour = readonly [number, number, number];
const mix = (a: Colour, b: Colour, t: number): Colour => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];
const clamp01 = (t: number) => Math.min(1, Math.max(0, t));

function paint(width: number, height: number, colour: (u: number, v: number) => Colour): Raster {
  const data = new Uint8Array(width * height * 4);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i += 4) {
      const c = colour(x / width, y / height);
      for (let k = 0; k < 3; k++) data[i + k] = Math.round(Math.min(255, Math.max(0, c[k])));
      data[i + 3] = 255;
    }
  }
  return { width, height, data };
}

/** Misty towpath at dawn: light, a path running into the haze, reeds, a band of water. */
export function mistyTowpath(width: number, height: number): Raster {
  const noise = makeNoise(11);
  return paint(width, height, (u, v) => {
    const haze = noise(u * 3, v * 2, 4);
    const sky = mix([222, 231, 236], [247, 241, 229], clamp01(v * 1.7));
    if (v < 0.46 + 0.03 * noise(u * 7, 1, 3)) {
      const trees = clamp01((noise(u * 9, 3, 4) * 0.34 + 0.2 - Math.abs(v - 0.46)) * 5) * clamp01(v * 3 - 0.7);
      return mix(mix(sky, [255, 252, 244], haze * 0.5), [186, 199, 196], trees * 0.6);
    }
    const depth = (v - 0.46) / 0.54;
    const bend = 0.5 + 0.12 * Math.sin(depth * 2);
    const isPath = Math.abs(u - bend) < 0.05 + depth * 0.22;
    const isWater = u < bend - 0.08 - depth * 0.3;
    const grain = noise(u * 40, v * 60, 3) - 0.5;
    const base: Colour = isPath ? [214, 205, 188] : isWater ? [203, 214, 216] : [178, 192, 158];
    const lit = mix(base, [244, 242, 234], clamp01(0.75 - depth) * 0.8);
    return [lit[0] + grain * 26 * depth, lit[1] + grain * 26 * depth, lit[2] + grain * 26 * depth];
  });
}

/** Lock by night: dark water between walls, two lamps and their reflections. */
export function lockByNight(width: number, height: number): Raster {
  const noise = makeNoise(23);
  const lamps = [
    [0.27, 0.3],
    [0.74, 0.26],
  ] as const;
  return paint(width, height, (u, v) => {
    let c: Colour = mix([9, 14, 30], [22, 36, 52], clamp01(v * 1.4));
    const isWall = v > 0.42 && (u < 0.18 + (v - 0.42) * 0.1 || u > 0.86 - (v - 0.42) * 0.1);
    if (isWall) c = mix([20, 20, 24], [34, 32, 34], noise(u * 30, v * 30, 3));
    else if (v > 0.5) c = mix(c, [30, 48, 60], noise(u * 6, v * 40, 3) * 0.6);
    for (const [lu, lv] of lamps) {
      const d = Math.hypot((u - lu) * 1.5, v - lv);
      c = mix(c, [255, 214, 150], clamp01(0.9 * Math.exp(-d * 26) + 0.25 * Math.exp(-d * 6)));
      if (v > 0.5 && !isWall)
        c = mix(
          c,
          [206, 160, 96],
          0.6 * Math.exp(-(((u - lu) * 40 + (noise(u * 30, v * 50, 2) - 0.5) * 3) ** 2)) * clamp01(1.3 - v),
        );
    }
    const grain = (noise(u * 90, v * 90, 2) - 0.5) * 7;
    return [c[0] + grain, c[1] + grain, c[2] + grain];
  });
}

/** Brick bridge: busy, mid tone. */
export function brickBridge(width: number, height: number): Raster {
  const noise = makeNoise(31);
  return paint(width, height, (u, v) => {
    const row = Math.floor(v * 22);
    const shift = row % 2 ? 0.5 : 0;
    const brick = Math.floor(u * 14 + shift);
    const inU = (u * 14 + shift) % 1;
    const inV = (v * 22) % 1;
    const isMortar = inU < 0.05 || inV < 0.1;
    const tone = noise(brick * 3.7, row * 5.1, 1);
    const grain = (noise(u * 120, v * 120, 3) - 0.5) * 40;
    const c: Colour = isMortar ? [156, 148, 136] : mix([128, 70, 54], [170, 104, 78], tone);
    const arch = clamp01((0.42 - Math.hypot((u - 0.5) * 1.1, v - 1)) * 60);
    const d = mix([c[0] + grain, c[1] + grain, c[2] + grain], [42, 46, 44], arch);
    return d;
  });
}

/** Ruffled water: fine texture, mid tone, light caught on small waves. */
export function ruffledWater(width: number, height: number): Raster {
  const noise = makeNoise(47);
  return paint(width, height, (u, v) => {
    const near = 0.35 + v * 1.1;
    const wave = noise((u * 26) / near, (v * 90) / near, 4);
    const crest = clamp01((wave - 0.56) * 7);
    const deep = mix([96, 122, 132], [58, 84, 96], v);
    const c = mix(deep, [172, 190, 194], crest * 0.75);
    const grain = (noise(u * 150, v * 150, 2) - 0.5) * 16;
    return [c[0] + grain, c[1] + grain, c[2] + grain];
  });
}

/** Snow on the bank: very light, blue in its hollows, a few dry stalks. */
export function snowyBank(width: number, height: number): Raster {
  const noise = makeNoise(59);
  return paint(width, height, (u, v) => {
    const drift = noise(u * 4, v * 5, 4);
    const hollow = clamp01((0.52 - drift) * 3.2);
    const c = mix([250, 250, 249], [205, 218, 230], hollow * 0.8);
    const stalk = noise(u * 70, 2, 2);
    const isStalk = stalk > 0.79 && v > 0.25 + 0.5 * noise(u * 30, 7, 2) && v < 0.62 + 0.2 * noise(u * 18, 9, 2);
    const grain = (noise(u * 160, v * 160, 2) - 0.5) * 6;
    const shown = isStalk ? mix(c, [150, 128, 92], 0.7) : c;
    return [shown[0] + grain, shown[1] + grain, shown[2] + grain];
  });
}

/** A painted hull: strong red with a cream band, rivets, and light that slides along it. */
export function paintedHull(width: number, height: number): Raster {
  const noise = makeNoise(67);
  return paint(width, height, (u, v) => {
    const line = v + 0.03 * Math.sin(u * 2.2);
    const isBand = line > 0.68 && line < 0.78;
    const base: Colour = line > 0.86 ? [32, 34, 38] : isBand ? [226, 212, 182] : [168, 38, 34];
    const sheen = Math.exp(-(((line - 0.24) * 6) ** 2)) * 0.28 + noise(u * 3, v * 14, 3) * 0.08;
    const rivet = Math.hypot(((u * 22) % 1) - 0.5, (line - 0.62) * 34);
    const c = mix(mix(base, [255, 236, 226], sheen), [88, 20, 20], rivet < 0.32 ? 0.55 : 0);
    const grain = (noise(u * 120, v * 120, 2) - 0.5) * 10;
    return [c[0] + grain, c[1] + grain, c[2] + grain];
  });
}

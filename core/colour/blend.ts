import type { Rgb } from './hex';

/**
 * The W3C's blend modes: what a source colour makes of a backdrop, each channel 0..1 of its own, or the whole colour.
 * @see W3C, "Compositing and Blending Level 1", section 10
 */
export const blendModes = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
] as const;
export type BlendMode = (typeof blendModes)[number];

const hardLight = (b: number, s: number) => (s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1));

function softLight(b: number, s: number): number {
  if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
  const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
  return b + (2 * s - 1) * (d - b);
}

const separable: Partial<Record<BlendMode, (b: number, s: number) => number>> = {
  normal: (_, s) => s,
  multiply: (b, s) => b * s,
  screen: (b, s) => b + s - b * s,
  overlay: (b, s) => hardLight(s, b),
  darken: Math.min,
  lighten: Math.max,
  'color-dodge': (b, s) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s))),
  'color-burn': (b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
  'hard-light': hardLight,
  'soft-light': softLight,
  difference: (b, s) => Math.abs(b - s),
  exclusion: (b, s) => b + s - 2 * b * s,
};

type Triple = readonly [number, number, number];
const lumOf = ([r, g, b]: Triple) => 0.3 * r + 0.59 * g + 0.11 * b;
const satOf = (c: Triple) => Math.max(...c) - Math.min(...c);

function clipColour(c: Triple): Triple {
  const l = lumOf(c);
  const [least, most] = [Math.min(...c), Math.max(...c)];
  return c.map((v) => {
    let w = v;
    if (least < 0) w = l + ((w - l) * l) / (l - least);
    if (most > 1) w = l + ((w - l) * (1 - l)) / (most - l);
    return w;
  }) as unknown as Triple;
}

const withLum = (c: Triple, l: number): Triple => {
  const d = l - lumOf(c);
  return clipColour(c.map((v) => v + d) as unknown as Triple);
};

function withSat(c: Triple, s: number): Triple {
  const [least, span] = [Math.min(...c), satOf(c)];
  return c.map((v) => (span > 0 ? ((v - least) * s) / span : 0)) as unknown as Triple;
}

const whole: Partial<Record<BlendMode, (b: Triple, s: Triple) => Triple>> = {
  hue: (b, s) => withLum(withSat(s, satOf(b)), lumOf(b)),
  saturation: (b, s) => withLum(withSat(b, satOf(s)), lumOf(b)),
  color: (b, s) => withLum(s, lumOf(b)),
  luminosity: (b, s) => withLum(b, lumOf(s)),
};

/** A colour with another laid over it, both code values. @param opacity  0..1, of the one laid over */
export function blend(backdrop: Rgb, source: Rgb, mode: BlendMode, opacity: number): Rgb {
  const [b, s] = [backdrop, source].map((c) => c.map((v) => v / 255) as unknown as Triple);
  const channel = separable[mode];
  const mixed = channel ? b.map((v, k) => channel(v, s[k])) : (whole[mode] as NonNullable<(typeof whole)['hue']>)(b, s);
  return b.map((v, k) => Math.round(255 * (v + (mixed[k] - v) * opacity))) as unknown as Rgb;
}

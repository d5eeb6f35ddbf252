import { type Artwork, type InkPlanes, withDrawing } from '../artwork/artwork';
import type { Drawing, Paint, Shape } from '../artwork/drawing';
import { type Rgb, hexFromRgb, rgbFromHex } from '../colour/hex';
import { colourField } from '../params';
import { luminance } from '../raster/contrast';
import { type Raster, createRaster } from '../raster/raster';
import { defineFill } from './fill';

/** Dark where much ink lies, light where little does; its transparency kept. */
export const twoTones = defineFill({
  id: 'twoTones',
  title: 'Two tones',
  params: {
    dark: colourField({ label: 'Dense', initial: '#000000' }),
    light: colourField({ label: 'Thin', initial: '#9a989e' }),
  },
  describe: (p) => `in two tones, from ${p.dark} where it is dense to ${p.light}`,
  apply(artwork, p) {
    const [dark, light] = [rgbFromHex(p.dark), rgbFromHex(p.light)];
    const { ink, drawing } = artwork;
    const tones = ink ? tonesOf(ink) : null;
    if (ink && tones) {
      if (!drawing) return { ...artwork, raster: inTonesOfInk(artwork.raster, { ink, tones, dark, light }) };
      return withDrawing(artwork, paintByInk(artwork, drawing, { ink, tones, dark, light }));
    }
    const raster = inTwoTones(artwork.raster, dark, light);
    return { ...artwork, raster, drawing: drawing && paintByDensity(drawing, dark, light) };
  },
});

interface InkTones {
  readonly ink: InkPlanes;
  /** The densities, 0 to 255, that are the lightest and the darkest tone. */
  readonly tones: Range;
  readonly dark: Rgb;
  readonly light: Rgb;
}

/** Inside a stroke from this coverage on. */
const INSIDE = 250;
/** Densities that span less than this are one tone: the pen was pressed evenly. */
const MIN_SPAN = 10;

/** The range of densities that a signature's cores have, but for the ends; null where it has one density. */
function tonesOf({ coverage, density }: InkPlanes): Range | null {
  const counts = new Float64Array(LEVELS);
  let whole = 0;
  for (let n = 0; n < coverage.length; n++) {
    if (coverage[n] < INSIDE) continue;
    counts[density[n]]++;
    whole++;
  }
  const [from, to] = endsOf(counts, whole);
  return whole > 0 && to - from >= MIN_SPAN ? { from, to } : null;
}

/** Every pixel in the tone of its stroke's core; edges fade by alpha alone. */
function inTonesOfInk({ width, height }: Raster, { ink, tones, dark, light }: InkTones): Raster {
  const out = createRaster(width, height);
  const table = Array.from({ length: LEVELS }, (_, k) => mixed(dark, light, densityIn(tones, k) / 255));
  for (let n = 0, p = 0; n < ink.coverage.length; n++, p += 4) {
    if (ink.coverage[n] === 0) continue;
    out.data.set(table[ink.density[n]], p);
    out.data[p + 3] = ink.coverage[n];
  }
  return out;
}

/** Paths of ink hold one tone each: the mean of what lies along them. */
function paintByInk({ raster, reduction }: Artwork, drawing: Drawing, { ink, tones, dark, light }: InkTones): Drawing {
  const meanAlong = ({ coords }: Shape['path']) => {
    let [sum, count] = [0, 0];
    for (let k = 0; k + 1 < coords.length; k += 2) {
      const [x, y] = [Math.floor(coords[k] / reduction), Math.floor(coords[k + 1] / reduction)];
      if (x < 0 || y < 0 || x >= raster.width || y >= raster.height) continue;
      const own = ink.density[y * raster.width + x];
      if (own === 0) continue;
      sum += own;
      count++;
    }
    return count > 0 ? Math.round(sum / count) : tones.to;
  };
  const paint = (shape: Shape): Paint => {
    const hex = hexFromRgb(mixed(dark, light, densityIn(tones, meanAlong(shape.path)) / 255));
    return { kind: 'colour', hex };
  };
  return { ...drawing, shapes: drawing.shapes.map((s) => ({ ...s, paint: paint(s) })) };
}

/** Colours that waver less, code values, are one ink: how dense it lies is then told by its transparency alone. */
const ONE_INK = 40;
/** Pixels fainter than this say nothing of the ink's colour. */
const TELLING_ALPHA = 96;
/** So much of a mark may be darker or lighter than the ends of its range. */
const END_SHARE = 0.02;
const LEVELS = 256;

const mixed = (dark: Rgb, light: Rgb, density: number): Rgb =>
  [0, 1, 2].map((c) => Math.round(light[c] + (dark[c] - light[c]) * density)) as unknown as Rgb;

function inTwoTones(raster: Raster, dark: Rgb, light: Rgb): Raster {
  const { width, height, data } = raster;
  const out = createRaster(width, height);
  const table = Array.from({ length: LEVELS }, (_, k) => mixed(dark, light, k / (LEVELS - 1)));
  const range = rangeOf(raster);
  for (let p = 0; p < data.length; p += 4) {
    const density = range ? densityIn(range, darknessOf(data, p)) : data[p + 3];
    out.data.set(table[density], p);
    out.data[p + 3] = data[p + 3];
  }
  return out;
}

/** How dark a colour looks, 0 to 255. */
const darknessOf = (data: ArrayLike<number>, p: number) =>
  Math.round(255 * (1 - Math.sqrt(luminance(data[p], data[p + 1], data[p + 2]))));

interface Range {
  readonly from: number;
  readonly to: number;
}
const densityIn = ({ from, to }: Range, darkness: number) =>
  Math.round(255 * Math.min(1, Math.max(0, (darkness - from) / (to - from))));

/** The darkness that a mark's own colours span; null where it is of one ink. */
function rangeOf({ data }: Raster): Range | null {
  const counts = new Float64Array(LEVELS);
  let whole = 0;
  for (let p = 0; p < data.length; p += 4) {
    if (data[p + 3] < TELLING_ALPHA) continue;
    counts[darknessOf(data, p)] += data[p + 3];
    whole += data[p + 3];
  }
  const [from, to] = endsOf(counts, whole);
  return whole > 0 && to - from > ONE_INK ? { from, to } : null;
}

/** Where a share of all lies below, and where as much lies above. */
function endsOf(counts: Float64Array, whole: number): [from: number, to: number] {
  const at = (share: number) => {
    let sum = 0;
    for (let k = 0; k < LEVELS; k++) if ((sum += counts[k]) > whole * share) return k;
    return LEVELS - 1;
  };
  return [at(END_SHARE), at(1 - END_SHARE)];
}

function paintByDensity(drawing: Drawing, dark: Rgb, light: Rgb): Drawing {
  const hexes = drawing.shapes.flatMap(({ paint }) =>
    paint.kind === 'colour' ? [paint.hex] : paint.stops.map((s) => s.hex),
  );
  const all = hexes.map((hex) => darknessOf(rgbFromHex(hex), 0));
  const range = { from: Math.min(...all), to: Math.max(...all) };
  const isOneInk = range.to - range.from <= ONE_INK;
  const toned = (hex: string) =>
    hexFromRgb(mixed(dark, light, isOneInk ? 1 : densityIn(range, darknessOf(rgbFromHex(hex), 0)) / 255));
  const paint = (own: Paint): Paint =>
    own.kind === 'colour'
      ? { ...own, hex: toned(own.hex) }
      : { ...own, stops: own.stops.map((s) => ({ ...s, hex: toned(s.hex) })) };
  return { ...drawing, shapes: drawing.shapes.map((s) => ({ ...s, paint: paint(s.paint) })) };
}

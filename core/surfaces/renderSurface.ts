import { rgbFromHex } from '../colour/hex';
import { linearFromSrgb, srgbFromLinear } from '../colour/srgb';
import { type Raster, createRaster } from '../raster/raster';

/** A body that a mark is put on, as it is seen: a cylinder such as a cup, or a flat sign seen from the side. */
export interface Surface {
  readonly kind: 'cylinder' | 'sign';
  /** Of the picture, px. */
  readonly width: number;
  readonly height: number;
  readonly colour: string;
  /** How much of the circle the mark covers, or of the sign's width, 0 to 1. */
  readonly part: number;
  /** The mark is turned round the cylinder; the sign about its upright axis. */
  readonly turnDeg: number;
  /** Seen from above. */
  readonly tiltDeg: number;
  /** Up and down on the body, -1 to 1. */
  readonly rise: number;
  /** Where the light comes from: 0 in front, -90 from the left. */
  readonly lightDeg: number;
  /** 0 dull, 1 as enamel. */
  readonly gloss: number;
}

export const usualSurface: Surface = {
  ...{ kind: 'cylinder', width: 1600, height: 1200, colour: '#efefef', part: 0.3, turnDeg: 0, tiltDeg: 8 },
  ...{ rise: 0, lightDeg: -35, gloss: 0.5 },
};

/** The body with its mark, clear round it, and where on it the mark is: white on black, opaque, of equal size. */
export interface Rendered {
  readonly colours: Raster;
  readonly mask: Raster;
}

/** Each pixel is looked at so many times across and down. */
const SAMPLES = 3;
/** A cylinder's radius and its height, and a sign's sides, shares of the picture's. */
const BODY = { radius: 0.3, height: 0.68, signWidth: 0.74, signAspect: 1.5 };
/** From where a sign is seen, its widths away. */
const DISTANCE = 3;
const AMBIENT = 0.42;
const SHINE = 36;
const DEG = Math.PI / 180;
type Vector = readonly [number, number, number];

/** A place on the body: which way it faces, and where on the mark it lies, 0 to 1 across and down where it does. */
interface Hit {
  readonly normal: Vector;
  readonly u: number;
  readonly v: number;
}

/**
 * A mark on a body, by following each line of sight to it: seen from straight ahead and far for a cylinder, in
 * perspective for a sign. Light is diffuse with a highlight.
 * @param mark  straight alpha, exactly round what is visible
 * @see B. T. Phong, "Illumination for Computer Generated Pictures", 1975
 */
export function renderSurface(mark: Raster, surface: Surface): Rendered {
  const { width, height } = surface;
  const [colours, mask] = [createRaster(width, height), createRaster(width, height)];
  const hitAt = surface.kind === 'cylinder' ? onCylinder(mark, surface) : onSign(mark, surface);
  const body = rgbFromHex(surface.colour).map((v) => linearFromSrgb[v]);
  const light: Vector = [Math.sin(surface.lightDeg * DEG), -0.45, Math.cos(surface.lightDeg * DEG)];
  const shade = shader(unit(light), surface.gloss);
  const sum = new Float64Array(5);
  const own = new Float64Array(4);
  const share = 1 / SAMPLES ** 2;
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p += 4) {
      sum.fill(0);
      for (let k = 0; k < SAMPLES ** 2; k++) {
        const sx = x + ((k % SAMPLES) + 0.5) / SAMPLES;
        const sy = y + (Math.floor(k / SAMPLES) + 0.5) / SAMPLES;
        const hit = hitAt(sx - width / 2, sy - height / 2);
        if (!hit) continue;
        sampleMark(mark, hit, own);
        const { diffuse, shine } = shade(hit.normal);
        for (let c = 0; c < 3; c++) sum[c] += (own[c] + body[c] * (1 - own[3])) * diffuse + shine * FULL;
        sum[3] += 1;
        sum[4] += own[3];
      }
      if (sum[3] > 0) for (let c = 0; c < 3; c++) colours.data[p + c] = toSrgb(sum[c] / sum[3]);
      colours.data[p + 3] = Math.round(sum[3] * share * 255);
      const grey = Math.round(sum[4] * share * 255);
      mask.data.fill(grey, p, p + 3);
      mask.data[p + 3] = 255;
    }
  }
  return { colours, mask };
}

const FULL = linearFromSrgb[255];
const toSrgb = (linear: number) => srgbFromLinear[Math.round(Math.min(FULL, Math.max(0, linear)))];

const unit = ([x, y, z]: Vector): Vector => {
  const length = Math.hypot(x, y, z);
  return [x / length, y / length, z / length];
};

/** Light that a place gives back, by which way it faces; the eye is far in front. */
function shader(light: Vector, gloss: number) {
  return (n: Vector) => {
    const facing = Math.max(0, n[0] * light[0] + n[1] * light[1] + n[2] * light[2]);
    const half = unit([light[0], light[1], light[2] + 1]);
    const glance = Math.max(0, n[0] * half[0] + n[1] * half[1] + n[2] * half[2]);
    return { diffuse: AMBIENT + (1 - AMBIENT) * facing, shine: gloss * 0.5 * glance ** SHINE };
  };
}

function onCylinder(mark: Raster, s: Surface): (x: number, y: number) => Hit | null {
  const short = Math.min(s.width, s.height);
  const [radius, tall] = [short * BODY.radius, short * BODY.height];
  const [sin, cos] = [Math.sin(s.tiltDeg * DEG), Math.cos(s.tiltDeg * DEG)];
  const arc = s.part * 2 * Math.PI;
  const markHeight = (radius * arc * mark.height) / mark.width;
  const middle = (-s.rise * (tall - markHeight)) / 2;
  return (x, y) => {
    if (Math.abs(x) >= radius) return null;
    const depth = Math.sqrt(radius * radius - x * x);
    // Along the axis: the front of a tilted body hangs lower the nearer it is.
    const along = (y - depth * sin) / cos;
    if (Math.abs(along) <= tall / 2) {
      const angle = Math.asin(x / radius) - s.turnDeg * DEG;
      const around = ((((angle + Math.PI) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)) - Math.PI;
      const normal: Vector = [x / radius, (-depth * sin) / radius, (depth * cos) / radius];
      return { normal, u: around / arc + 0.5, v: (along - middle) / markHeight + 0.5 };
    }
    // The lid, where one looks down on it.
    const onLid = (y + (tall / 2) * cos) / (sin || Infinity);
    const isLid = sin > 0 && onLid ** 2 + x ** 2 < radius ** 2;
    return isLid ? { normal: [0, -cos, sin], u: -1, v: -1 } : null;
  };
}

function onSign(mark: Raster, s: Surface): (x: number, y: number) => Hit | null {
  const wide = Math.min(s.width * BODY.signWidth, s.height * BODY.signWidth * BODY.signAspect);
  const tall = wide / BODY.signAspect;
  const far = wide * DISTANCE;
  const [sy, cy] = [Math.sin(s.turnDeg * DEG), Math.cos(s.turnDeg * DEG)];
  const [sx, cx] = [Math.sin(s.tiltDeg * DEG), Math.cos(s.tiltDeg * DEG)];
  // The sign's own axes and the way it faces, y down, z towards the eye.
  const across: Vector = [cy, 0, sy];
  const down: Vector = [sy * sx, cx, -cy * sx];
  const normal: Vector = [-sy * cx, sx, cy * cx];
  const fit = Math.min(1, tall / wide / (mark.height / mark.width) / Math.max(0.01, s.part));
  const markWidth = wide * s.part * Math.min(1, fit);
  const markHeight = (markWidth * mark.height) / mark.width;
  const middle = (-s.rise * (tall - markHeight)) / 2;
  return (x, y) => {
    // The line of sight from the eye through the picture's plane meets the sign's.
    const ray: Vector = [x, y, -far];
    const steep = ray[0] * normal[0] + ray[1] * normal[1] + ray[2] * normal[2];
    if (steep >= 0) return null;
    const t = (-far * normal[2]) / steep;
    const at: Vector = [ray[0] * t, ray[1] * t, far + ray[2] * t];
    const a = at[0] * across[0] + at[1] * across[1] + at[2] * across[2];
    const d = at[0] * down[0] + at[1] * down[1] + at[2] * down[2];
    if (Math.abs(a) > wide / 2 || Math.abs(d) > tall / 2) return null;
    return { normal, u: a / markWidth + 0.5, v: (d - middle) / markHeight + 0.5 };
  };
}

/** The mark's colour there, linear and premultiplied, and its alpha; nothing beside it. */
function sampleMark({ data, width, height }: Raster, { u, v }: Hit, out: Float64Array): void {
  out.fill(0);
  if (u < 0 || v < 0 || u >= 1 || v >= 1) return;
  const [x, y] = [u * width - 0.5, v * height - 0.5];
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  for (let k = 0; k < 4; k++) {
    const [px, py] = [x0 + (k & 1), y0 + (k >> 1)];
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    const weight = (k & 1 ? x - x0 : 1 - x + x0) * (k >> 1 ? y - y0 : 1 - y + y0);
    const p = (py * width + px) * 4;
    const alpha = (data[p + 3] / 255) * weight;
    for (let c = 0; c < 3; c++) out[c] += linearFromSrgb[data[p + c]] * alpha;
    out[3] += alpha;
  }
}

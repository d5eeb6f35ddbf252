import sharp from 'sharp';
import { seededRandom } from '../core/seededRandom';
import { cropRaster } from '../core/raster/cropRaster';
import { findExtents } from '../core/raster/extents';
import { type Raster, createRaster } from '../core/raster/raster';
import { placeOnCanvas } from '../core/raster/cropRaster';
import type { WallProblem } from '../core/wall/auditLogo';
import { compositeOn, renderSvg } from '../demo/render';
import { type Random, between, pick } from './brush';
import { drawingSets } from './testLogos';

/** A made-up logo for a wall, and what is wrong with it: nothing, or one thing. */
export interface WallLogo {
  readonly name: string;
  readonly picture: Raster;
  readonly fault: WallProblem | null;
}

const inks = ['#1f5a45', '#b5322b', '#1c1b1d', '#274690', '#c7762b', '#5b3a6e', '#0f766e', '#8a1c4a'];
const KINDS = [
  'wordmark',
  'ringBadge',
  'plate',
  'creature',
  'lineArt',
  'fineText',
  'gradientText',
  'shield',
  'stack',
  'key',
  'wheel',
  'monogram',
  'gear',
  'bubble',
  'leaf',
  'camera',
  'house',
  'ribbon',
];

const FAULTS: Record<WallProblem, (sound: Raster, random: Random) => Promise<Raster>> = {
  'white-box': async (r) => compositeOn(widen(r, 1.06), [255, 255, 255]),
  fringe: async (r) => fringed(r),
  enlarged: async (r) => {
    const small = await scaled(r, Math.round(r.width / 5), Math.round(r.height / 5));
    return scaled(small, r.width, r.height);
  },
  margins: async (r, random) => widen(r, between(random, 1.7, 2.6)),
  stretched: async (r, random) => {
    const by = random() < 0.6 ? between(random, 1.25, 2.4) : between(random, 0.45, 0.8);
    return scaled(r, Math.round(r.width * by), r.height);
  },
  lost: async (r) => recoloured(r, [247, 246, 244]),
  duplicate: async (r, random) => {
    const by = between(random, 0.75, 1.3);
    return scaled(r, Math.round(r.width * by), Math.round(r.height * by));
  },
};

/** One wall: some sound logos, and each fault once. The copy comes after what it copies. */
export async function makeWall(seed: number): Promise<WallLogo[]> {
  const random = seededRandom(seed * 9173 + 5);
  for (let k = 0; k < 5; k++) random();
  const kinds = [...KINDS].sort(() => random() - 0.5);
  const draw = (): Raster => {
    const kind = kinds.pop() as string;
    const make = { ...drawingSets.all, ...drawingSets.inner }[kind];
    const a = pick(random, inks);
    const b = pick(
      random,
      inks.filter((ink) => ink !== a),
    );
    const drawing = make({ random, a, b, ground: '#ffffff' });
    const width = Math.round(between(random, 620, 900));
    const height = Math.round((width * drawing.height) / drawing.width);
    const r = renderSvg(drawing.body, width, height, `0 0 ${drawing.width} ${drawing.height}`);
    return cropRaster(r, findExtents(r) ?? { x: 0, y: 0, width, height });
  };
  const logos: WallLogo[] = [];
  for (let k = 0; k < 5; k++) logos.push({ name: `sound-${k}.png`, picture: draw(), fault: null });
  for (const fault of Object.keys(FAULTS) as WallProblem[]) {
    const sound = fault === 'duplicate' ? logos[0].picture : draw();
    logos.push({ name: `with-${fault}.png`, picture: await FAULTS[fault](sound, random), fault });
  }
  return logos;
}

function widen(r: Raster, by: number): Raster {
  const [width, height] = [Math.round(r.width * by), Math.round(r.height * by)];
  return placeOnCanvas(r, width, height, (width - r.width) >> 1, (height - r.height) >> 1);
}

async function scaled(r: Raster, width: number, height: number): Promise<Raster> {
  const { data, info } = await sharp(r.data, { raw: { width: r.width, height: r.height, channels: 4 } })
    .resize(width, height, { fit: 'fill', kernel: 'cubic' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data) };
}

// As a colour key leaves it: what is not white is opaque, mixed with white at the rim.
function fringed(r: Raster): Raster {
  const out = createRaster(r.width, r.height);
  const seen = compositeOn(r, [255, 255, 255]);
  for (let i = 0; i < out.data.length; i += 4) {
    out.data.set(seen.data.subarray(i, i + 3), i);
    out.data[i + 3] = r.data[i + 3] > 225 ? 255 : r.data[i + 3] > 20 ? Math.max(90, r.data[i + 3] * 0.8) : 0;
  }
  return out;
}

function recoloured(r: Raster, to: readonly [number, number, number]): Raster {
  const out = { ...r, data: r.data.slice() };
  for (let i = 0; i < out.data.length; i += 4) out.data.set(to, i);
  return out;
}

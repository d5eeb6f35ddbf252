import { MARK, SOFT } from '../kernels/interface';
import type { Raster } from '../raster/raster';
import type { FlatScene } from './flatScene';
import { groundAt } from './measureGround';
import type { SoftRegion } from './softRegions';

/** So far from the shadow's colour line a pixel may lie, code values, and so much of the ripple beside it. */
const SLACK = 7;
const SLACK_OF_RIPPLE = 0.5;
const SLACK_OF_STRENGTH = 0.1;
/** A little stronger than the strongest that was found: near the mark a shadow is deepest. */
const OVER_STRONGEST = 1.15;
/** What is wider, in pixels, is a pale part of the mark. */
const MOST_WIDTH = 5;
/** Larger soft regions are broad enough to be found whole; what is left of them is not worth a walk round them. */
const MOST_MEMBERS = 500_000;
const MOST_PIECE = 6000;

/** Shadows of one mark share a colour: where compression tints some of them, all are as dark as can be. */
const NEARLY_BLACK = 30;
const NEARLY_BLACK_OF_RIPPLE = 1.5;

/**
 * Compression tints each piece of a shadow its own way. When together they are nearly black, all become black, at the
 * strength that this needs; `out` is written anew.
 */
export function agreeOnShadow(scene: FlatScene, soft: readonly SoftRegion[], out: Raster): SoftRegion[] {
  const total = soft.reduce((sum, s) => sum + s.members.length, 0);
  if (soft.length < 2 || total > MOST_MEMBERS) return [...soft];
  const mean = [0, 1, 2].map((c) => soft.reduce((sum, s) => sum + (s.colour[c] * s.members.length) / total, 0));
  if (Math.max(...mean) > NEARLY_BLACK + NEARLY_BLACK_OF_RIPPLE * scene.ripple) return [...soft];
  const black = [0, 0, 0] as const;
  return soft.map((s) => {
    if (s.colour.every((v) => v === 0)) return s;
    for (const i of s.members) writePixel(out, i, black, alongLine(scene, black, i).alpha);
    return { ...s, colour: black };
  });
}

type Colour = readonly [number, number, number];

/** How far along the line from the ground to a colour a pixel lies, 0..1, and how far off it, code values. */
function alongLine({ raster, ground }: FlatScene, colour: Colour, i: number): { alpha: number; off: number } {
  const { width, height, data } = raster;
  const B = groundAt(ground, i % width, Math.floor(i / width), width, height);
  let [dot, square, whole] = [0, 0, 0];
  for (let c = 0; c < 3; c++) {
    const [v, f] = [data[i * 4 + c] - B[c], colour[c] - B[c]];
    dot += v * f;
    square += f * f;
    whole += v * v;
  }
  const alpha = dot / Math.max(1, square);
  return { alpha, off: Math.sqrt(Math.max(0, whole - alpha * dot)) };
}

function writePixel(out: Raster, i: number, colour: Colour, alpha: number): void {
  out.data.set(colour, i * 4);
  out.data[i * 4 + 3] = Math.round(Math.min(1, Math.max(0, alpha)) * 255);
}

/**
 * In small or compressed pictures a shadow is too steep or too rough in places to be found as one, and thin pale
 * pieces of it stay in the mark. Those that touch a soft region, lie on its colour line and are no stronger become part
 * of it: their label becomes SOFT, and `out` gets their colour and alpha.
 * @returns the pixels taken, a list for each soft region
 */
export function takeShadowRemains(scene: FlatScene, soft: readonly SoftRegion[], out: Raster): Int32Array[] {
  return soft
    .filter((s) => s.members.length <= MOST_MEMBERS)
    .map((s) => takeFor(scene, s, out))
    .filter((list) => list.length > 0);
}

function takeFor(scene: FlatScene, { members, colour, strongest }: SoftRegion, out: Raster): Int32Array {
  const { labels, distance, raster, ground, ripple } = scene;
  const { width } = raster;
  const most = Math.min(strongest * OVER_STRONGEST, 200);
  const slack = SLACK + ground.noise + SLACK_OF_RIPPLE * ripple;
  const isRemain = (i: number): boolean => {
    if (labels[i] !== MARK || distance[i] > most) return false;
    const { alpha, off } = alongLine(scene, colour, i);
    return alpha > 0 && off <= slack + SLACK_OF_STRENGTH * distance[i];
  };
  const seen = new Set<number>();
  const taken: number[] = [];
  const beside = (i: number): number[] => {
    const x = i % width;
    return [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width].filter(
      (n) => n >= 0 && n < labels.length,
    );
  };
  for (const m of members) {
    if (labels[m - 1] && labels[m + 1] && labels[m - width] && labels[m + width]) continue;
    for (const start of beside(m)) {
      if (seen.has(start) || !isRemain(start)) continue;
      const piece = grow(start);
      if (piece) for (const i of piece) taken.push(i);
    }
  }
  for (const i of taken) {
    labels[i] = SOFT;
    writePixel(out, i, colour, alongLine(scene, colour, i).alpha);
  }
  return Int32Array.from(taken);

  function grow(start: number): number[] | null {
    const piece = [start];
    seen.add(start);
    let rim = 0;
    for (let k = 0; k < piece.length && piece.length <= MOST_PIECE; k++) {
      for (const n of beside(piece[k])) {
        if (seen.has(n)) continue;
        if (isRemain(n)) {
          seen.add(n);
          piece.push(n);
        } else rim++;
      }
    }
    return piece.length <= MOST_PIECE && (2 * piece.length) / Math.max(1, rim) <= MOST_WIDTH ? piece : null;
  }
}

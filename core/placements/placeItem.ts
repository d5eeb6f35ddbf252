import type { Artwork } from '../artwork/artwork';
import { extentsOf } from '../artwork/extentsOf';
import { turnArtwork } from '../artwork/turnArtwork';
import { rgbFromHex } from '../colour/hex';
import { markAtWidth } from '../contrast/placeMark';
import { type OutlinedMark, type Standing, bestStanding, measureStanding, outlineMark } from '../contrast/standing';
import { CoreError } from '../errors';
import type { RectPx } from '../params';
import { clampRect, cropRaster } from '../raster/cropRaster';
import { type Raster, createRaster } from '../raster/raster';
import type { Extent } from '../sizes/size';
import { placeBox } from './placement';
import type { MarkItem, StripItem } from './readPlacement';

/** A variant of a mark that is to be laid on grounds, drawn once for all of them. */
export interface LaidVariant {
  readonly id: string;
  readonly name: string;
  readonly own: Extent;
  readonly turned: Extent;
  /** At a width of its turned extents; the last few widths are kept. */
  atWidth(width: number): OutlinedMark;
}

/** Photos of one camera are of two shapes, and a mark stands on them at two widths. */
const KEPT_WIDTHS = 4;

/** @throws CoreError 'cutout/nothing-left' naming the variant where nothing of it is visible */
export function layVariant(variant: { id: string; name: string }, artwork: Artwork, turnDeg: number): LaidVariant {
  const own = extentsOf(artwork);
  const turnedArtwork = turnArtwork(artwork, turnDeg);
  const turned = extentsOf(turnedArtwork);
  if (!own || !turned)
    throw new CoreError('cutout/nothing-left', `Nothing is visible of the variant "${variant.name}".`);
  const kept = new Map<number, OutlinedMark>();
  return {
    id: variant.id,
    name: variant.name,
    own,
    turned,
    atWidth(width) {
      const known = kept.get(width);
      if (known) return known;
      const drawn = outlineMark(markAtWidth(turnedArtwork, width));
      if (kept.size >= KEPT_WIDTHS) kept.delete(kept.keys().next().value as number);
      kept.set(width, drawn);
      return drawn;
    },
  };
}

/** What is looked at of a ground to place marks on it. */
export interface GroundView extends Extent {
  readonly ppi?: number;
  /** Nothing is there to stand out from. */
  readonly isClear: boolean;
  /** The part of it inside a rectangle, sRGB; whatever lies beyond the ground is left out. */
  look(rect: RectPx): Seen | Promise<Seen>;
}

export interface Seen {
  readonly raster: Raster;
  readonly at: { readonly x: number; readonly y: number };
}

/** How one item comes to lie on one ground. */
export interface Placed {
  readonly variant: string;
  readonly raster: Raster;
  readonly box: RectPx;
  /** Null where there is nothing to stand out from. */
  readonly standing: Standing | null;
  /** Of every variant that it could have been. */
  readonly tried: readonly {
    readonly id: string;
    readonly standing: Standing;
    readonly moments: readonly Standing[];
  }[];
}

/** What lies directly beyond the outline counts too, px. */
const ROUND_PX = 6;

/** Where a mark lies on a ground, in the variant that reads best there. */
export const placeItem = (ground: GroundView, item: MarkItem, choices: readonly LaidVariant[]): Promise<Placed> =>
  placeThroughout([ground], item, choices);

/**
 * The same on grounds of one size that follow one another, such as frames of a clip: one place and one variant for all,
 * the one that reads best throughout, told as it stands in the mean.
 */
export async function placeThroughout(
  grounds: readonly GroundView[],
  item: MarkItem,
  choices: readonly LaidVariant[],
): Promise<Placed> {
  const looked = grounds.map((ground) => (ground.isClear ? null : remembering(ground)));
  const all = [];
  for (const choice of choices) {
    const wanted = placeBox(grounds[0], choice, item);
    const mark = choice.atWidth(wanted.width);
    const box = { ...wanted, height: mark.raster.height };
    const moments: Standing[] = [];
    for (const look of looked)
      if (look) moments.push(standingOn(await look(roundOf(box)), mark, { ...box, opacity: item.opacity }));
    all.push({ choice, mark, box, moments, standing: moments.length > 0 ? meanOf(moments) : null });
  }
  const measured = all.flatMap((c) => (c.standing ? { ...c.standing, shareAbove3: steadyShare(c.moments) } : []));
  const { choice, mark, box, standing } = all[measured.length > 0 ? bestStanding(measured) : 0];
  const tried = all.flatMap(({ choice: { id }, standing: s, moments }) => (s ? [{ id, standing: s, moments }] : []));
  return { variant: choice.id, raster: mark.raster, box, standing, tried };
}

/** Variants of one shape stand on the very same place: what was looked at last is kept. */
function remembering(ground: GroundView): (rect: RectPx) => Promise<Seen> {
  let last: { key: string; seen: Seen } | null = null;
  return async (rect) => {
    const key = JSON.stringify(rect);
    if (last?.key !== key) last = { key, seen: await ground.look(rect) };
    return last.seen;
  };
}

const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;

/** The mean of moments, with the place where it stood out least at any of them. */
function meanOf(moments: readonly Standing[]): Standing {
  if (moments.length === 1) return moments[0];
  const worst = moments.flatMap((m) => m.worst ?? []).sort((a, b) => a.ratio - b.ratio)[0] ?? null;
  return { ratio: mean(moments.map((m) => m.ratio)), shareAbove3: mean(moments.map((m) => m.shareAbove3)), worst };
}

/** One bad moment counts as much as all the others together. */
function steadyShare(moments: readonly Standing[]): number {
  const shares = moments.map((m) => m.shareAbove3);
  return (Math.min(...shares) + mean(shares)) / 2;
}

const roundOf = ({ x, y, width, height }: RectPx): RectPx => ({
  ...{ x: x - ROUND_PX, y: y - ROUND_PX },
  ...{ width: width + 2 * ROUND_PX, height: height + 2 * ROUND_PX },
});

function standingOn({ raster, at }: Seen, mark: OutlinedMark, where: { x: number; y: number; opacity: number }) {
  if (raster.width === 0 || raster.height === 0) return { ratio: 1, shareAbove3: 0, worst: null };
  const { x, y, opacity } = where;
  const found = measureStanding(mark, raster, { x: x - at.x, y: y - at.y, opacity });
  return { ...found, worst: found.worst && { ...found.worst, x: found.worst.x + at.x, y: found.worst.y + at.y } };
}

/** The strip's own pixels and where they lie. */
export function stripOn(ground: Extent, { strip }: StripItem): { raster: Raster; box: RectPx } {
  const { edge, heightPx, colour } = strip;
  const isAcross = edge === 'upper' || edge === 'lower';
  const width = isAcross ? ground.width : Math.min(heightPx, ground.width);
  const height = isAcross ? Math.min(heightPx, ground.height) : ground.height;
  const x = edge === 'right' ? ground.width - width : 0;
  const y = edge === 'lower' ? ground.height - height : 0;
  return { raster: flatRaster(width, height, colour), box: { x, y, width, height } };
}

/** One colour all over. */
export function flatRaster(width: number, height: number, hex: string): Raster {
  const out = createRaster(width, height);
  const [r, g, b] = rgbFromHex(hex);
  new Uint32Array(out.data.buffer, out.data.byteOffset, width * height).fill(
    ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0,
  );
  return out;
}

/** A picture in memory as a ground. */
export const viewOf = (raster: Raster, isClear: boolean, ppi?: number): GroundView => ({
  width: raster.width,
  height: raster.height,
  ...(ppi === undefined ? {} : { ppi }),
  isClear,
  look: (rect) => {
    const r = clampRect(rect, raster.width, raster.height);
    const isOff = r.width === 0 || r.height === 0;
    return { raster: isOff ? createRaster(0, 0) : cropRaster(raster, r), at: { x: r.x, y: r.y } };
  },
});

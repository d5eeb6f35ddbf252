import type { Standing } from '../../core/contrast/standing';
import { layOnGround } from '../../core/placements/layOnGround';
import { placeThroughout, stripOn, viewOf } from '../../core/placements/placeItem';
import { isStrip } from '../../core/placements/readPlacement';
import { type Raster, createRaster } from '../../core/raster/raster';
import type { LaidItem, PlacedItem } from '../photos/placeOnPhoto';
import { type Clip, framesAt } from './clip';

/** Moments that a clip is looked at for contrast: often enough to meet every scene of some seconds. */
const MOMENTS = 12;

/** Contrast of one variant over the length of a clip. */
export interface OverTime {
  readonly variant: string;
  readonly moments: readonly { readonly seconds: number; readonly standing: Standing }[];
}

export interface PlacedOnClip {
  /** Everything on a clear frame as large as the clip's picture. */
  readonly frame: Raster;
  readonly items: readonly (PlacedItem & { readonly overTime: readonly OverTime[] })[];
}

/** When a clip is looked at: in the middle of equal parts. */
export const momentsOf = (seconds: number, count = MOMENTS): number[] =>
  Array.from({ length: count }, (_, k) => ((k + 0.5) / count) * seconds);

/** Lays items on a clear frame for a clip, each in the variant that reads best throughout. */
export async function placeOnClip(clip: Clip, items: readonly LaidItem[]): Promise<PlacedOnClip> {
  const times = momentsOf(clip.seconds);
  const frames = await framesAt(clip, times);
  const page = createRaster(clip.width, clip.height);
  const placed: (PlacedItem & { overTime: OverTime[] })[] = [];
  for (const { item, choices } of items) {
    const laying = { opacity: item.opacity, mode: item.blend };
    if (isStrip(item)) {
      const { raster, box } = stripOn(page, item);
      for (const ground of [page, ...frames]) layOnGround(ground, raster, box, laying);
      placed.push({ variant: null, box, standing: null, tried: [], overTime: [] });
      continue;
    }
    const views = frames.map((frame) => viewOf(frame, false));
    const { raster, ...found } = await placeThroughout(views, item, choices);
    for (const ground of [page, ...frames]) layOnGround(ground, raster, found.box, laying);
    const overTime = found.tried.map(({ id, moments }) => ({
      variant: id,
      moments: moments.map((standing, k) => ({ seconds: times[k], standing })),
    }));
    placed.push({ ...found, overTime });
  }
  return { frame: page, items: placed };
}

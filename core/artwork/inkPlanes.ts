import type { Raster } from '../raster/raster';
import type { Artwork, InkPlanes } from './artwork';

/** The artwork with alpha from coverage alone: ink as solid as it can be. The same where it holds no such planes. */
export function solidArtwork(artwork: Artwork): Artwork {
  const { ink, raster, drawing } = artwork;
  // Paths are solid already.
  if (!ink || drawing) return artwork;
  const data = raster.data.slice();
  for (let n = 0; n < ink.coverage.length; n++) data[n * 4 + 3] = ink.coverage[n];
  return { ...artwork, raster: { ...raster, data } };
}

/**
 * Planes for a picture that was changed by hand: what was rubbed out by half is half as covered, what was made solid is
 * covered wholly.
 */
export function followInk(ink: InkPlanes, before: Raster, after: Raster): InkPlanes {
  const coverage = ink.coverage.slice();
  const density = ink.density.slice();
  for (let n = 0, p = 3; n < coverage.length; n++, p += 4) {
    const [was, is] = [before.data[p], after.data[p]];
    if (was === is) continue;
    if (is === 0) coverage[n] = 0;
    else if (is < was) coverage[n] = Math.round((coverage[n] * is) / was);
    else {
      coverage[n] = Math.max(coverage[n], is);
      density[n] = Math.max(density[n], is);
    }
  }
  return { coverage, density };
}

import { type Raster, matteOf } from '../raster/raster';
import { type Path, joinPaths, ringsOf } from '../vector/path';
import { signedAreaOf } from '../vector/windings';
import { type StrokeWidths, measureStrokes } from './strokeWidths';
import { plainTrace, traceCoverage } from './traceCoverage';
import type { TracedLayer } from './traceMaster';

/** A colour that covers less of the mark is what edges and compression leave, not something drawn. */
const LEAST_SHARE = 0.001;

/**
 * How wide a mark's strokes are: of its whole outline, and where one of its colours has a thinner line of its own, such
 * as a white line in a dark plate, that one.
 * @param layers  the mark's outlines by colour; of a mark of a single colour its outline
 * @param outline  of all that is visible, where it is known
 */
export function colourStrokes(
  raster: Raster,
  layers: readonly TracedLayer[],
  outline: Path | null = null,
): StrokeWidths | null {
  if (layers.length === 1) return measureStrokes(layers[0].traced.path);
  const whole = measureStrokes(outline ?? outlineOf(raster));
  const total = layers.reduce((sum, l) => sum + l.areaPx, 0);
  const own = layers
    .filter((l) => l.areaPx >= total * LEAST_SHARE)
    .flatMap((l) => measureStrokes(withoutCrumbs(l), 'lines') ?? []);
  if (!whole) return own[0] ?? null;
  const thinnest = own.reduce((a, b) => (b.thinnestPx < a.thinnestPx ? b : a), whole);
  return { ...thinnest, medianPx: whole.medianPx };
}

/** Pieces of a colour smaller than this, and than this share of it, are left over between two others. */
const CRUMB_PX = 40;
const CRUMB_SHARE = 0.03;

function withoutCrumbs({ traced, areaPx }: TracedLayer): Path {
  const least = Math.max(CRUMB_PX, areaPx * CRUMB_SHARE);
  return joinPaths(ringsOf(traced.path).filter((ring) => Math.abs(signedAreaOf(ring)) >= least));
}

/** The outline of all that is visible. */
export const outlineOf = (raster: Raster): Path => traceCoverage(matteOf(raster), plainTrace).path;

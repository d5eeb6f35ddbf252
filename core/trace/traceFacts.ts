import type { Raster } from '../raster/raster';
import { colourStrokes } from './colourStrokes';
import { type Deviation, measureDeviation } from './deviation';
import type { StrokeWidths } from './strokeWidths';
import type { TracedMaster } from './traceMaster';

/** What is told of a traced master; lengths in px of the picture it was traced from. */
export interface TraceNumbers {
  readonly nodes: number;
  readonly pieces: number;
  readonly meanDeviationPx: number;
  readonly largestDeviationPx: number;
  readonly deviation: Deviation;
  readonly strokes: StrokeWidths | null;
}

/** The numbers of a traced master, over all its colours. */
export function traceNumbers(raster: Raster, { layers }: TracedMaster): TraceNumbers {
  const all = layers.map(({ traced }) => ({
    deviation: measureDeviation(traced.path, traced.rings),
    places: traced.rings.reduce((n, ring) => n + ring.xs.length, 0),
  }));
  const places = all.reduce((n, l) => n + l.places, 0);
  const worst = all.reduce<Deviation | null>(
    (a, { deviation: b }) => (a === null || b.largestPx > a.largestPx ? b : a),
    null,
  );
  const meanDeviationPx = all.reduce((s, l) => s + l.deviation.meanPx * l.places, 0) / Math.max(1, places);
  return {
    nodes: layers.reduce((n, l) => n + l.traced.nodes, 0),
    // Outer rings: holes are no pieces.
    pieces: layers.reduce((n, l) => n + l.traced.rings.filter((ring) => ring.area2 > 0).length, 0),
    meanDeviationPx,
    largestDeviationPx: worst?.largestPx ?? 0,
    deviation: {
      meanPx: meanDeviationPx,
      largestPx: worst?.largestPx ?? 0,
      place: worst?.place ?? null,
      trouble: all.flatMap((l) => l.deviation.trouble),
    },
    strokes: colourStrokes(raster, layers),
  };
}

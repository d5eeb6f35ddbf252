import { call } from '../../core/kernels/heap';
import { packColours } from '../../core/matte/dominantColours';
import type { RowSegments } from '../../core/matte/rowSegments';
import { type Box, filledBox, stackRoom } from '../../core/matte/spreadGround';

interface Filling {
  readonly distance: Uint8Array;
  readonly labels: Int32Array;
  readonly width: number;
  readonly height: number;
  readonly tolerance: number;
  readonly segments?: RowSegments;
}

/** Fills the ground round a pixel with a label, in `labels`. */
export function fillFrom(start: number, label: number, on: Filling): { filled: number; box: Box } {
  const { distance, labels, width, height, tolerance, segments } = on;
  const stack = stackRoom(width, height);
  return call(segments ? [distance, segments.state] : [distance], [labels], stack, ({ k, at, scratch }) => {
    k.setFill({
      ofPlane: at(distance),
      ofLabels: at(labels),
      ofState: segments ? at(segments.state) : 0,
      w: width,
      h: height,
      most: tolerance,
      room: scratch(stack, false),
    });
    return { filled: k.fillFrom(start, label), box: filledBox(k) };
  });
}

/** The flat colour that a colour was probably moved away from, or null. */
export function nearestFlat(
  colours: readonly Float64Array[],
  r: number,
  g: number,
  b: number,
  reach: number,
): Float64Array | null {
  const packed = packColours(colours);
  return call([packed], [], 0, ({ k, at }) => {
    k.setColours(0, 0, at(packed), colours.length);
    const found = k.nearestFlat(r, g, b, reach);
    return found ? colours[(found - at(packed)) / 24] : null;
  });
}

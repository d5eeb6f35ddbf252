import type { Matrix } from '../geometry/matrix';
import type { RectPx } from '../params';
import type { FillRule } from '../vector/areaCoverage';
import { type Path, boundsOfPath, transformPath } from '../vector/path';

/** A colour on the way of a gradient; `at` 0 to 1. */
export interface Stop {
  readonly at: number;
  readonly hex: string;
}

/**
 * What a shape is filled with. A gradient's geometry is in the drawing's own pixels: a line from and to, or a circle's
 * middle and radius. Colours change in sRGB code values, as SVG and PDF have it.
 */
export type Paint =
  | { readonly kind: 'colour'; readonly hex: string }
  | {
      readonly kind: 'linear';
      readonly geometry: { readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number };
      readonly stops: readonly Stop[];
    }
  | {
      readonly kind: 'radial';
      readonly geometry: { readonly cx: number; readonly cy: number; readonly r: number };
      readonly stops: readonly Stop[];
    };

/** One filled outline. */
export interface Shape {
  readonly id: string;
  readonly path: Path;
  readonly rule: FillRule;
  readonly paint: Paint;
  /** 0 to 1. */
  readonly opacity: number;
}

/** Artwork as paths with their paints, the first lowest; y down, in full-size pixels of its stage. */
export interface Drawing {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly shapes: readonly Shape[];
}

/** The smallest rectangle round all outlines that can be seen, or null where there are none. */
export function boundsOfDrawing({ shapes }: Drawing): RectPx | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const shape of shapes) {
    const box = shape.opacity > 0 ? boundsOfPath(shape.path) : null;
    if (!box) continue;
    left = Math.min(left, box.x);
    top = Math.min(top, box.y);
    right = Math.max(right, box.x + box.width);
    bottom = Math.max(bottom, box.y + box.height);
  }
  return left > right ? null : { x: left, y: top, width: right - left, height: bottom - top };
}

/**
 * A drawing moved, turned or scaled onto a page of another size. A radial gradient takes the mean of a scaling's two
 * sides.
 */
export function placeDrawing(drawing: Drawing, matrix: Matrix, widthPx: number, heightPx: number): Drawing {
  const shapes = drawing.shapes.map((shape) => ({
    ...shape,
    path: transformPath(shape.path, matrix),
    paint: placePaint(shape.paint, matrix),
  }));
  return { widthPx, heightPx, shapes };
}

function placePaint(paint: Paint, [a, b, c, d, e, f]: Matrix): Paint {
  const at = (x: number, y: number) => [a * x + c * y + e, b * x + d * y + f] as const;
  if (paint.kind === 'linear') {
    const [x1, y1] = at(paint.geometry.x1, paint.geometry.y1);
    const [x2, y2] = at(paint.geometry.x2, paint.geometry.y2);
    return { ...paint, geometry: { x1, y1, x2, y2 } };
  }
  if (paint.kind === 'radial') {
    const [cx, cy] = at(paint.geometry.cx, paint.geometry.cy);
    return { ...paint, geometry: { cx, cy, r: paint.geometry.r * Math.sqrt(Math.abs(a * d - b * c)) } };
  }
  return paint;
}

/** The same drawing with every shape in one paint. */
export const paintAll = (drawing: Drawing, paint: Paint): Drawing => ({
  ...drawing,
  shapes: drawing.shapes.map((shape) => ({ ...shape, paint })),
});

/** A gradient's stops from its very beginning to its very end, two at least. */
export function wholeStops(stops: readonly Stop[]): Stop[] {
  const [first, last] = [stops[0], stops[stops.length - 1]];
  const all = [...(first.at > 0 ? [{ ...first, at: 0 }] : []), ...stops, ...(last.at < 1 ? [{ ...last, at: 1 }] : [])];
  return all.length === 1 ? [first, { ...first, at: 1 }] : all;
}

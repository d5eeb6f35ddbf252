import { directionOf } from '../geometry/direction';
import type { Artwork } from '../artwork/artwork';
import { solidArtwork } from '../artwork/inkPlanes';
import type { Paint } from '../artwork/drawing';
import { extentsOf } from '../artwork/extentsOf';
import { painter } from '../artwork/renderDrawing';
import type { Matrix } from '../geometry/matrix';
import { type RectPx, type StopValue, choiceField, flagField, numberField, stopsField } from '../params';
import { type Raster, createRaster } from '../raster/raster';
import { findPieces } from '../tidy/pieces';
import { boundsOfPath } from '../vector/path';
import { defineFill } from './fill';
import { PEN, penField, penWords } from './penField';

const LEAST_SCALE_PCT = 10;

/** Every visible pixel, or every shape, in a gradient over the whole mark or over each of its pieces. */
export const gradient = defineFill({
  id: 'gradient',
  title: 'Gradient',
  params: {
    type: choiceField({
      label: 'Kind',
      initial: 'linear',
      choices: [
        { value: 'linear', label: 'Linear' },
        { value: 'radial', label: 'Radial' },
      ],
    }),
    stops: stopsField({
      label: 'Colours',
      initial: [
        { at: 0, colour: '#000000' },
        { at: 1, colour: '#9a989e' },
      ],
    }),
    angleDeg: numberField({
      label: 'Towards',
      hint: '0° is right, 90° down; of a radial one no matter.',
      initial: 0,
      min: -360,
      max: 360,
      step: 5,
      unit: '°',
    }),
    over: choiceField({
      label: 'Over',
      initial: 'mark',
      choices: [
        { value: 'mark', label: 'The mark' },
        { value: 'piece', label: 'Each piece' },
      ],
    }),
    reverse: flagField({ label: 'Reversed', initial: false }),
    scalePct: numberField({
      label: 'Scale',
      initial: 100,
      min: LEAST_SCALE_PCT,
      max: 1000,
      step: 5,
      unit: '%',
    }),
    [PEN]: penField('solid'),
  },
  describe: ({ type, stops, pen }) =>
    `in a ${type} gradient from ${stops[0].colour} to ${stops[stops.length - 1].colour}${penWords(pen, 'solid')}`,
  apply(own, p) {
    const artwork = p.pen === 'solid' ? solidArtwork(own) : own;
    const extents = extentsOf(artwork);
    if (!extents) return artwork;
    const over = (box: RectPx) => paintOver(box, p);
    const { drawing } = artwork;
    return {
      ...artwork,
      raster: filled(artwork, extents, over, p.over === 'piece'),
      drawing: drawing && {
        ...drawing,
        shapes: drawing.shapes.map((shape) => ({
          ...shape,
          paint: over((p.over === 'piece' ? boundsOfPath(shape.path) : null) ?? extents),
        })),
      },
    };
  },
});

interface GradientValues {
  readonly type: string;
  readonly stops: readonly StopValue[];
  readonly angleDeg: number;
  readonly reverse: boolean;
  readonly scalePct: number;
}

/** A gradient whose ends lie at a box's farthest corners, or, if radial, at its longer side. */
function paintOver({ x, y, width, height }: RectPx, p: GradientValues): Paint {
  const order = p.reverse ? [...p.stops].reverse().map((s) => ({ ...s, at: 1 - s.at })) : p.stops;
  const stops = order.map(({ at, colour }) => ({ at, hex: colour.toLowerCase() }));
  const [cx, cy] = [x + width / 2, y + height / 2];
  const scale = p.scalePct / 100;
  if (p.type === 'radial')
    return { kind: 'radial', geometry: { cx, cy, r: (Math.max(width, height) / 2) * scale }, stops };
  const [cos, sin] = directionOf(p.angleDeg);
  const half = ((Math.abs(width * cos) + Math.abs(height * sin)) / 2) * scale;
  const geometry = { x1: cx - half * cos, y1: cy - half * sin, x2: cx + half * cos, y2: cy + half * sin };
  return { kind: 'linear', geometry, stops };
}

function filled(
  { raster, reduction: r, within, drawing }: Artwork,
  extents: RectPx,
  over: (box: RectPx) => Paint,
  isByPiece: boolean,
): Raster {
  const { width, data } = raster;
  const out = createRaster(width, raster.height);
  const scale: Matrix = [1 / r, 0, 0, 1 / r, 0, 0];
  const whole = painter(over(extents), scale);
  // Of a drawing each shape is a piece: its pixels are made of the shapes themselves.
  const pieces = isByPiece && !drawing ? findPieces(raster, within) : null;
  const own = pieces?.pieces.map(({ box: b }) =>
    painter(over({ x: b.x * r, y: b.y * r, width: b.width * r, height: b.height * r }), scale),
  );
  const rgb = new Float64Array(3);
  for (let y = within.y; y < within.y + within.height; y++) {
    for (let x = within.x; x < within.x + within.width; x++) {
      const p = (y * width + x) * 4;
      if (data[p + 3] === 0) continue;
      const label = pieces ? pieces.labels[(y - within.y) * within.width + x - within.x] : 0;
      (own?.[label - 1] ?? whole)(x + 0.5, y + 0.5, rgb);
      for (let c = 0; c < 3; c++) out.data[p + c] = Math.round(rgb[c]);
      out.data[p + 3] = data[p + 3];
    }
  }
  return out;
}

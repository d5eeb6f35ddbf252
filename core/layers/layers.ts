import { rgbFromHex } from '../colour/hex';
import { CoreError } from '../errors';
import { scaling } from '../geometry/matrix';
import { fromMatrix, composeProjective } from '../geometry/projective';
import { type Raster, createRaster, matteOf } from '../raster/raster';
import { plainTrace, traceCoverage } from '../trace/traceCoverage';
import { type Path, boundsOfPath, transformPath } from '../vector/path';
import { COARSE, unionOf } from '../vector/polygons';
import { type Artwork, withDrawing } from '../artwork/artwork';
import { type Shape, placeDrawing } from '../artwork/drawing';
import { renderDrawing } from '../artwork/renderDrawing';

/**
 * The outline of everything visible, full-size px, filled by the rule of windings: of paths their own, of pixels where
 * they are half covered.
 */
export function outlineOf({ drawing, raster, reduction }: Artwork, withoutHoles = false): Path {
  if (drawing) {
    const shapes = drawing.shapes.filter((s) => s.opacity > 0);
    return unionOf(shapes, COARSE, withoutHoles);
  }
  const path = transformPath(traceCoverage(matteOf(raster), plainTrace).path, scaling(reduction));
  return withoutHoles ? unionOf([{ path, rule: 'nonzero' }], COARSE, true) : path;
}

/** Room that a path needs beyond the artwork's page, full-size px, the same on all four sides. */
export function roomFor({ raster, drawing, reduction }: Artwork, path: Path): number {
  const box = boundsOfPath(path);
  if (!box) return 0;
  const width = drawing?.widthPx ?? raster.width * reduction;
  const height = drawing?.heightPx ?? raster.height * reduction;
  return Math.max(0, -box.x, -box.y, box.x + box.width - width, box.y + box.height - height);
}

/** No artwork is grown beyond this. */
const MOST_PIXELS = 120_000_000;

/**
 * The same artwork on a page larger by whole pixels on all four sides.
 * @throws CoreError 'size/impossible' when that would be far too large
 */
export function growArtwork(artwork: Artwork, roomPx: number): Artwork {
  const { raster, drawing, reduction, toWorking, within, outlines } = artwork;
  const pad = Math.ceil(roomPx / reduction - 1e-6);
  if (pad <= 0) return artwork;
  const pixels = (raster.width + 2 * pad) * (raster.height + 2 * pad);
  if (pixels > MOST_PIXELS)
    throw new CoreError(
      'size/impossible',
      `With what stands round it the mark would have ${Math.round(pixels / 1e6)} megapixels; the most is ` +
        `${MOST_PIXELS / 1e6}. Make the rim, plate or shadow smaller.`,
    );
  const back = composeProjective(toWorking, fromMatrix([1, 0, 0, 1, -pad, -pad]));
  const by = pad * reduction;
  const shift = (d: NonNullable<Artwork['drawing']>) =>
    placeDrawing(d, [1, 0, 0, 1, by, by], d.widthPx + 2 * by, d.heightPx + 2 * by);
  const grown: Artwork = {
    ...artwork,
    raster: padded(raster, pad),
    toWorking: back,
    within: { ...within, x: within.x + pad, y: within.y + pad },
    ...(outlines ? { outlines: shift(outlines) } : {}),
  };
  return drawing ? withDrawing(grown, shift(drawing), back) : grown;
}

function padded({ width, height, data }: Raster, pad: number): Raster {
  const out = createRaster(width + 2 * pad, height + 2 * pad);
  for (let y = 0; y < height; y++)
    out.data.set(data.subarray(y * width * 4, (y + 1) * width * 4), ((y + pad) * out.width + pad) * 4);
  return out;
}

/** One colour in an outline, full-size px, beneath the mark or round it. */
export interface Layer {
  readonly path: Path;
  readonly hex: string;
  /**
   * The mark's own outline, where the layer lies beside it alone: where both share a pixel each keeps its part of it,
   * and nothing of the layer shows through what is half clear inside.
   */
  readonly beside?: Path;
}

/** Puts a layer beneath artwork, which grows by the room that the layer needs. */
export function addBeneath(artwork: Artwork, { path, hex, beside }: Layer): Artwork {
  const room = roomFor(artwork, path);
  const grown = growArtwork(artwork, room);
  const by = Math.ceil(room / artwork.reduction - 1e-6) * artwork.reduction;
  const place = (own: Path) => (room > 0 ? transformPath(own, [1, 0, 0, 1, by, by]) : own);
  const shape: Shape = { id: 'layer', path: place(path), rule: 'nonzero', paint: { kind: 'colour', hex }, opacity: 1 };
  if (grown.drawing) {
    const ids = grown.drawing.shapes.length;
    return withDrawing(grown, {
      ...grown.drawing,
      shapes: [{ ...shape, id: `layer-${ids}` }, ...grown.drawing.shapes],
    });
  }
  const { width, height } = grown.raster;
  const draw = (own: Shape) =>
    renderDrawing(
      { widthPx: width, heightPx: height, shapes: [own] },
      { width, height, matrix: scaling(1 / grown.reduction) },
    );
  const beneath = draw(shape);
  if (beside) {
    clearInside(beneath, draw({ ...shape, path: place(beside) }));
  }
  return pixelsOnly(grown, composited(grown.raster, beneath, beside !== undefined));
}

/** Takes a layer away where the mark is deep inside; at its edge both share the pixels, so that no seam is left. */
function clearInside({ width, height, data }: Raster, inside: Raster): void {
  const isFull = (p: number) => inside.data[p * 4 + 3] === 255;
  for (let y = 1; y + 1 < height; y++) {
    for (let x = 1; x + 1 < width; x++) {
      const p = y * width + x;
      const isDeep = isFull(p) && isFull(p - 1) && isFull(p + 1) && isFull(p - width) && isFull(p + width);
      if (isDeep) data[p * 4 + 3] = 0;
    }
  }
}

/** Artwork whose drawing has ended: its pixels alone. */
export const pixelsOnly = (artwork: Artwork, raster: Raster): Artwork => ({
  ...artwork,
  raster,
  drawing: null,
  within: { x: 0, y: 0, width: raster.width, height: raster.height },
});

/** One picture over another of the same size; or, beside it, each with its own share of every pixel. Straight alpha. */
export function composited(over: Raster, under: Raster, isBeside: boolean): Raster {
  const out = { width: over.width, height: over.height, data: over.data.slice() };
  const { data } = out;
  for (let p = 0; p < data.length; p += 4) {
    const u = under.data[p + 3];
    if (u === 0) continue;
    const a = data[p + 3];
    if (a === 255) continue;
    // In 255ths of 255, so that all is whole numbers.
    const share = isBeside ? Math.min(u, 255 - a) * 255 : u * (255 - a);
    const sum = a * 255 + share;
    data[p + 3] = Math.round(sum / 255);
    for (let c = 0; c < 3; c++)
      data[p + c] = Math.round((over.data[p + c] * a * 255 + under.data[p + c] * share) / sum);
  }
  return out;
}

/** A picture in one colour, its alpha a plane's. */
export function inOneColour({ width, height }: Raster, alpha: ArrayLike<number>, hex: string): Raster {
  const [r, g, b] = rgbFromHex(hex);
  const out = createRaster(width, height);
  for (let k = 0, p = 0; k < alpha.length; k++, p += 4) {
    out.data[p] = r;
    out.data[p + 1] = g;
    out.data[p + 2] = b;
    out.data[p + 3] = alpha[k];
  }
  return out;
}

import { type Matrix, multiply, translation } from '../geometry/matrix';
import { fromMatrix } from '../geometry/projective';
import { warpRaster } from '../raster/warpRaster';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from './artwork';
import { placeDrawing } from './drawing';

/** Artwork turned about its middle, on a page as large as it then needs. Paths stay paths. @param deg  clockwise */
export function turnArtwork(artwork: Artwork, deg: number): Artwork {
  if (deg % 360 === 0) return artwork;
  const { drawing, raster, reduction } = artwork;
  const own = drawing ? { width: drawing.widthPx, height: drawing.heightPx } : raster;
  const { matrix, width, height } = turning(own, deg);
  if (drawing) return artworkOfDrawing(placeDrawing(drawing, matrix, width, height), reduction);
  const back = turning({ width, height }, -deg, own).matrix;
  return artworkOfRaster(warpRaster(raster, fromMatrix(back), width, height, false), reduction);
}

interface Sides {
  readonly width: number;
  readonly height: number;
}

function turning(from: Sides, deg: number, onto?: Sides): Sides & { matrix: Matrix } {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  const width = onto?.width ?? Math.ceil(Math.abs(from.width * cos) + Math.abs(from.height * sin) - 1e-6);
  const height = onto?.height ?? Math.ceil(Math.abs(from.width * sin) + Math.abs(from.height * cos) - 1e-6);
  const turn: Matrix = [cos, sin, -sin, cos, 0, 0];
  const matrix = multiply(
    translation(width / 2, height / 2),
    multiply(turn, translation(-from.width / 2, -from.height / 2)),
  );
  return { matrix, width, height };
}

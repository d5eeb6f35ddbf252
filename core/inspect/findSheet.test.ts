import { describe, expect, it } from 'vitest';
import { type Corners, invertProjective, rectangleToCorners } from '../geometry/projective';
import { photographSheet } from '../ink/testSheet';
import { type Raster, createRaster } from '../raster/raster';
import { warpRaster } from '../raster/warpRaster';
import { findSheet } from './findSheet';

/** A photographed sheet laid on a dark table, its corners where asked. */
function onTable(corners: Corners): Raster {
  const { picture } = photographSheet({ noise: 2 });
  const seen = warpRaster(
    withEdge(picture),
    invertProjective(rectangleToCorners(picture.width, picture.height, corners)),
    900,
    700,
    false,
  );
  const out = createRaster(900, 700);
  for (let i = 0; i < out.data.length; i += 4) {
    const a = seen.data[i + 3] / 255;
    for (let c = 0; c < 3; c++) out.data[i + c] = Math.round(seen.data[i + c] * a + [72, 60, 50][c] * (1 - a));
    out.data[i + 3] = 255;
  }
  return out;
}

// One clear pixel all round, so that the sheet ends instead of going on.
function withEdge(r: Raster): Raster {
  const data = r.data.slice();
  for (let y = 0; y < r.height; y++)
    for (let x = 0; x < r.width; x++)
      if (x === 0 || y === 0 || x === r.width - 1 || y === r.height - 1) data[(y * r.width + x) * 4 + 3] = 0;
  return { ...r, data };
}

describe('findSheet', () => {
  const corners: Corners = [
    { x: 120, y: 90 },
    { x: 800, y: 60 },
    { x: 840, y: 600 },
    { x: 70, y: 640 },
  ];
  it('finds the corners of a sheet that was photographed from the side', () => {
    const found = findSheet(onTable(corners), 1) as Corners;
    found.forEach((p, k) => expect(Math.hypot(p.x - corners[k].x, p.y - corners[k].y), `corner ${k}`).toBeLessThan(8));
  });
  it('gives full-size places from a reduced picture', () => {
    const found = findSheet(onTable(corners), 3) as Corners;
    expect(Math.abs(found[2].x - 3 * 840)).toBeLessThan(24);
  });
  it('proposes nothing for a sheet that fills the picture or lies square', () => {
    expect(findSheet(photographSheet().picture, 1)).toBeNull();
    expect(
      findSheet(
        onTable([
          { x: 100, y: 80 },
          { x: 800, y: 80 },
          { x: 800, y: 620 },
          { x: 100, y: 620 },
        ]),
        1,
      ),
    ).toBeNull();
  });
});

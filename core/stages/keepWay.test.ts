import { describe, expect, it } from 'vitest';
import { disc, drawMark, onGround, pixel } from '../../tests/support/pictures';
import { artworkOfRaster } from '../artwork/artwork';
import { type Raster, createRaster } from '../raster/raster';
import { runKeepWay } from './keepWay';

const gold = drawMark(160, 160, disc(80, 80, 60), [230, 180, 60]);

/** As a colour key leaves a mark that stood on a ground: whatever is not the ground is opaque. */
function keyedFrom(mark: Raster, ground: readonly [number, number, number]): Raster {
  const seen = onGround(mark, ground);
  return { ...seen, data: seen.data.map((v, k) => (k % 4 < 3 ? v : mark.data[k] > 20 ? 255 : 0)) };
}
const run = (raster: Raster, oldGround: string[] = []) => runKeepWay(artworkOfRaster(raster), { oldGround });

describe('artwork that came transparent', () => {
  it('stays as it is, and nothing is said of it', () => {
    const { artwork, findings, facts } = run(gold);
    expect([artwork.raster, findings, facts]).toEqual([gold, [], { way: 'keep' }]);
  });
  it.each([
    ['light', [255, 255, 255], '#ffffff', 'Take the white out of its edges', [40, 60, 90]],
    ['dark', [0, 0, 0], '#000000', 'Take the black out of its edges', [230, 180, 60]],
  ] as const)('with a %s fringe is told, with the press that takes it out', (name, ground, hex, label, own) => {
    const keyed = keyedFrom(drawMark(160, 160, disc(80, 80, 60), own), ground);
    const { findings } = run(keyed);
    expect(findings.map((f) => [f.id, f.fixes])).toEqual([['fringe-kept', [{ label, change: { oldGround: [hex] } }]]]);
    expect(findings[0].title).toBe(`${name} fringe in the edges`);
    const mended = run(keyed, [hex]);
    expect(mended.findings).toEqual([]);
    // At the mark's rim its own colour stands, as far as the ground was mixed in.
    const rim = pixel(mended.artwork.raster, 80, 20).slice(0, 3);
    expect(Math.max(...rim.map((v, c) => Math.abs(v - own[c])))).toBeLessThan(4);
  });
  it('of which nothing is visible is told, and so is a picture without a clear pixel', () => {
    expect(run(createRaster(20, 20)).findings.map((f) => f.id)).toEqual(['nothing-left']);
    const plate = onGround(createRaster(20, 20), [31, 90, 69]);
    expect(run(plate).findings.map((f) => [f.id, f.weight])).toEqual([['opaque-plate', 'note']]);
    expect(run(plate).artwork.raster.data[3]).toBe(255);
    const opaque = onGround(gold, [255, 255, 255]);
    expect(run(opaque).findings.map((f) => [f.id, f.fixes?.length])).toEqual([['no-flat-ground', 2]]);
  });
});

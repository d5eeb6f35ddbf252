import { describe, expect, it } from 'vitest';
import { artworkOfRaster } from '../artwork/artwork';
import { createRaster } from '../raster/raster';
import { createStageCache } from './stageCache';

const resultOf = (pixels: number) => ({ artwork: artworkOfRaster(createRaster(pixels, 1)), findings: [], facts: {} });

describe('createStageCache', () => {
  it('holds as many outputs as fit its bytes, the newest', () => {
    const cache = createStageCache(4 * 1000);
    for (let k = 0; k < 30; k++) cache.set(`k${k}`, resultOf(100));
    expect(cache.bytes).toBe(4000);
    expect([cache.get('k19'), cache.get('k20') !== undefined]).toEqual([undefined, true]);
  });
  it('keeps what was asked for lately, and a picture that is handed on counts once', () => {
    const cache = createStageCache(4 * 250);
    const first = resultOf(100);
    cache.set('a', first);
    for (let stage = 0; stage < 7; stage++) cache.set(`same ${stage}`, first);
    expect(cache.bytes).toBe(400);
    cache.set('b', resultOf(100));
    expect(cache.get('a')).toBe(first);
    for (let stage = 0; stage < 7; stage++) expect(cache.get(`same ${stage}`)).toBe(first);
  });
  it('keeps the newest output though it alone is too large', () => {
    const cache = createStageCache(100);
    cache.set('small', resultOf(10));
    cache.set('large', resultOf(1000));
    expect([cache.get('small'), cache.get('large') !== undefined]).toEqual([undefined, true]);
  });
});

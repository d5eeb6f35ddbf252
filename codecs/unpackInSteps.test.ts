import { deflateSync } from 'node:zlib';
import { describe, expect, it, vi } from 'vitest';
import { seededRandom } from '../core/seededRandom';
import { unpackInSteps } from './unpackInSteps';

const random = seededRandom(11);
const unpacked = (packed: Uint8Array, step: number, most: number) => {
  const parts: Buffer[] = [];
  unpackInSteps(packed, step, most, (bytes) => parts.push(Buffer.from(bytes)));
  return { whole: Buffer.concat(parts), longest: Math.max(0, ...parts.map((p) => p.length)) };
};

describe('unpacking in steps', () => {
  it.each([0, 1, 999, 1000, 1001, 64_000, 300_000])(
    'gives %i bytes back as they were, never more than a step at a time',
    (length) => {
      for (const spread of [1, 4, 256]) {
        const bytes = Buffer.from(Uint8Array.from({ length }, () => Math.floor(random() * spread)));
        const { whole, longest } = unpacked(deflateSync(bytes), 1000, length);
        expect(whole.equals(bytes)).toBe(true);
        expect(longest).toBeLessThanOrEqual(1000);
      }
    },
  );
  it('refuses what ends early, what is damaged, what has a wrong check sum and what is no such stream', () => {
    const packed = deflateSync(Buffer.from(Uint8Array.from({ length: 50_000 }, () => Math.floor(random() * 40))));
    const with1 = (at: number) => Buffer.from(packed.map((v, k) => (k === at ? v ^ 0x5a : v)));
    for (const bad of [
      packed.subarray(0, packed.length >> 1),
      packed.subarray(0, packed.length - 1),
      with1(packed.length - 2),
      with1(0),
      Buffer.from('no zlib'),
      Buffer.alloc(0),
    ]) {
      expect(() => unpacked(bad, 1000, 50_000)).toThrow();
    }
    expect(() => unpacked(packed, 1000, 49_999), 'no more than was said').toThrow();
    expect(() => unpacked(packed, 1000, 50_000), 'and is none the worse for it').not.toThrow();
  });
  it('unpacks all at once where the inside of Node is another', async () => {
    vi.resetModules();
    vi.doMock('node:zlib', async (original) => ({
      ...(await original<typeof import('node:zlib')>()),
      createInflate: () => ({ destroy: () => {} }),
    }));
    const other = await import('./unpackInSteps');
    const bytes = Buffer.from(Uint8Array.from({ length: 5000 }, () => Math.floor(random() * 9)));
    const parts: Uint8Array[] = [];
    other.unpackInSteps(deflateSync(bytes), 1000, 5000, (part) => parts.push(part));
    expect(parts).toHaveLength(1);
    expect(Buffer.from(parts[0]).equals(bytes)).toBe(true);
    expect(() => other.unpackInSteps(deflateSync(bytes), 1000, 4999, () => {}), 'no more than was said').toThrow();
    vi.doUnmock('node:zlib');
  });
  it('ends when the one who looks has seen enough', () => {
    let seen = 0;
    expect(() =>
      unpackInSteps(deflateSync(Buffer.alloc(100_000)), 1000, 100_000, () => {
        if (++seen === 3) throw new Error('enough');
      }),
    ).toThrow('enough');
    expect(seen).toBe(3);
  });
});

import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { compileKernels, describeKernels } from '../../scripts/kernels.mjs';
import { CoreError } from '../errors';
import { BINARY } from './binary';
import {
  bytes,
  call,
  copyIn,
  copyPartIn,
  ints,
  reals,
  releaseMemory,
  roomFor,
  shorts,
  signedBytes,
  warmMemory,
  withHeap,
} from './heap';

it('binary.ts was made from the sources as they stand; else run npm run kernels', async () => {
  expect(await compileKernels()).toContain(`'${BINARY}'`);
  expect(await describeKernels()).toBe(readFileSync(new URL('./interface.ts', import.meta.url), 'utf8'));
}, 120_000);

describe('call', () => {
  it('brings plain arrays in, and only the changed ones back', () => {
    const plane = Uint8Array.from({ length: 12 }, (_, i) => i);
    const out = new Uint8Array(6);
    call([plane], [out], 0, ({ k, at }) => k.thinOut(at(plane), 6, 2, 2, at(out)));
    expect([...out]).toEqual([0, 2, 4, 0, 0, 0]);
    expect([...plane]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
  });
  it('works in place on arrays that are in the kernels’ memory already', () => {
    withHeap(roomFor(8, 8), () => {
      const [plane, out] = [copyIn(Uint8Array.of(9, 8, 7, 6, 5, 4, 3, 2)), bytes(8)];
      call([plane], [out], 0, ({ k, at }) => {
        expect([at(plane), at(out)]).toEqual([plane.byteOffset, out.byteOffset]);
        k.copyBytes(at(plane), at(out), 8);
      });
      expect([...out]).toEqual([9, 8, 7, 6, 5, 4, 3, 2]);
    });
  });
  it('hands out scratch that is all 0, though it was used before', () => {
    for (let round = 0; round < 3; round++) {
      call([], [], 64, ({ k, scratch, intsAt }) => {
        const at = scratch(64);
        expect([...intsAt(at, 16)].every((v) => v === 0)).toBe(true);
        k.fillBytes(at, 77, 64);
      });
    }
  });
  it('takes a view into the middle of an array for what it is', () => {
    const all = Int32Array.of(1, 2, 3, 4, 5, 6);
    const middle = all.subarray(2, 4);
    call([middle], [middle], 0, ({ at, intsAt }) => {
      intsAt(at(middle), 2).set([30, 40]);
    });
    expect([...all]).toEqual([1, 2, 30, 40, 5, 6]);
  });
  it('ends what it took when the work fails, and the next call is none the worse', () => {
    expect(() =>
      call([Uint8Array.of(1)], [], 100, () => {
        throw new Error('no');
      }),
    ).toThrow('no');
    expect(call([Uint8Array.of(5)], [], 0, () => 3)).toBe(3);
    expect(bytes(4).buffer.byteLength, 'outside of any work arrays are plain').toBe(4);
  });
});

describe('withHeap', () => {
  it('gives arrays of every kind, all 0, also where others have been', () => {
    const kinds = [bytes, signedBytes, shorts, ints, reals];
    const room = roomFor(...kinds.map(() => 40));
    for (let round = 0; round < 2; round++)
      withHeap(room, () => {
        const made = kinds.map((make) => make(10));
        expect(new Set(made.map((m) => m.buffer)).size).toBe(1);
        for (const array of made) {
          expect(array.every((v) => v === 0)).toBe(true);
          array.fill(3);
        }
        for (const array of made)
          expect(
            array.every((v) => v === 3),
            'none lies over another',
          ).toBe(true);
      });
  });
  it('says so when more is asked for than was promised, rather than move arrays that are in use', () => {
    expect(() => withHeap(1000, () => bytes(1_000_000))).toThrow('promised');
    withHeap(roomFor(2_000_000), () => expect(bytes(2_000_000)).toHaveLength(2_000_000));
  });
  it('frees what inner work took', () => {
    withHeap(roomFor(1_000_000), () => {
      for (let round = 0; round < 5; round++) withHeap(roomFor(1_000_000), () => bytes(1_000_000));
      expect(bytes(1_000_000)).toHaveLength(1_000_000);
    });
  });
  it('gives large memory back, and works on with new one', () => {
    const before = withHeap(16, () => bytes(4).buffer);
    withHeap(roomFor(400_000_000), () => bytes(4));
    expect(withHeap(16, () => bytes(4).buffer) === before).toBe(false);
  });
});

it('copyPartIn cuts a rectangle out of a plane', () => {
  const plane = Uint8Array.from({ length: 20 }, (_, i) => i);
  withHeap(roomFor(6, 10), () => {
    expect([...copyPartIn(plane, 5, { x: 1, y: 1, width: 3, height: 2 })]).toEqual([6, 7, 8, 11, 12, 13]);
    expect([...copyPartIn(plane, 5, { x: 0, y: 2, width: 5, height: 2 })]).toEqual([
      10, 11, 12, 13, 14, 15, 16, 17, 18, 19,
    ]);
  });
});

describe('warming memory up', () => {
  it('leaves alone what is worked on, and what is handed out after it is all 0', () => {
    withHeap(roomFor(100_000), () => {
      const used = bytes(100_000).fill(7);
      warmMemory(0, 1 << 20, 1 << 20);
      expect(used.every((v) => v === 7)).toBe(true);
    });
    warmMemory(0, 1 << 20, 1 << 21);
    warmMemory(1 << 20, 1 << 22, 1 << 21);
    withHeap(roomFor(1 << 21), () => expect(bytes(1 << 21).every((v) => v === 0)).toBe(true));
  });
});

describe('a kernel that goes wrong costs its own work and nothing of the next one’s', () => {
  const lookedAt = () => {
    const out = new Uint8Array(6);
    const plane = Uint8Array.from({ length: 12 }, (_, i) => i);
    call([plane], [out], 0, ({ k, at }) => k.thinOut(at(plane), 6, 2, 2, at(out)));
    return [...out];
  };
  const memoryNow = () => withHeap(8, () => bytes(8).buffer);

  it('when it writes beyond an array', () => {
    const before = memoryNow();
    expect(() => call([], [], 64, ({ k, scratch }) => k.fillBytes(scratch(64), 7, 65))).toThrow('beyond the end');
    expect(memoryNow()).not.toBe(before);
    expect(lookedAt()).toEqual([0, 2, 4, 0, 0, 0]);
  });
  it('when it runs out of the memory altogether', () => {
    const before = memoryNow();
    expect(() => call([], [], 64, ({ k, scratch }) => k.fillBytes(scratch(64), 7, 0x7fffffff))).toThrow();
    expect(memoryNow()).not.toBe(before);
    withHeap(roomFor(4096), () => expect(bytes(4096).every((v) => v === 0)).toBe(true));
  });
  it.each([1.5, NaN, 1e308, -(2 ** 40)])('when it is given %d for a count', (count) => {
    expect(() => call([], [], 64, ({ k, scratch }) => k.fillBytes(scratch(64), 7, count))).toThrow('a whole number');
  });
  it('when it is given an address that nobody handed out', () => {
    expect(() => call([], [], 64, ({ k }) => k.fillBytes(64, 7, 4))).toThrow('a place in memory');
  });
  it('memory is given back when asked to, but not from under work', () => {
    const before = memoryNow();
    withHeap(8, () => {
      releaseMemory();
      expect(bytes(8).buffer).toBe(before);
    });
    releaseMemory();
    expect(memoryNow()).not.toBe(before);
  });
  it('a fault that a person can mend leaves the memory as it is', () => {
    const before = memoryNow();
    expect(() =>
      withHeap(8, () => {
        throw new CoreError('crop/empty');
      }),
    ).toThrow(CoreError);
    expect(memoryNow()).toBe(before);
  });
});

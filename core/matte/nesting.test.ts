import { expect, it } from 'vitest';
import { bytes, call, withHeap } from '../kernels/heap';
import { FIRST_AREA } from '../kernels/interface';
import { bytesOfBits, findNesting } from './nesting';
import { allMixed } from './rowSegments';

/** A label plane from rows of letters: `#` the mark, `.` outside, digits areas. */
function nestingOf(rows: readonly string[]) {
  const [width, height] = [rows[0].length, rows.length];
  return withHeap(100_000, () => {
    const labels = Int32Array.from(
      [...rows.join('')].map((c) => (c === '#' ? 0 : c === '.' ? 1 : FIRST_AREA + Number(c))),
    );
    const others = bytes(bytesOfBits(width) * height);
    call([labels], [others], 0, ({ k, at }) => k.bitsOfOthers(at(labels), width, height, at(others)));
    const areas = [...new Set(labels)]
      .filter((l) => l >= FIRST_AREA)
      .map((label) => ({ label, areaPx: labels.filter((l) => l === label).length, start: labels.indexOf(label) }));
    return findNesting({ labels, width, segments: allMixed(width, height), others, areas });
  });
}

it('tells what encloses what, and how much each holds', () => {
  const n = nestingOf([
    '..................',
    '.#########..##....',
    '.#0000000#..##....',
    '.#0#####0#........',
    '.#0#111#0#....#...',
    '.#0#####0#.....#..',
    '.#0000000#........',
    '.#########........',
    '..................',
  ]);
  expect(n.pieces.map((p) => [p.areaPx, p.within, p.areas])).toEqual([
    [28, null, [FIRST_AREA]],
    [4, null, []],
    [12, FIRST_AREA, [FIRST_AREA + 1]],
    [2, null, []],
  ]);
  expect(n.pieces.map((p) => p.filledPx)).toEqual([63, 4, 15, 2]);
  expect(n.around.get(FIRST_AREA + 1)?.id).toBe(2);
  expect(n.inside.get(FIRST_AREA)?.map((p) => p.id)).toEqual([2]);
  expect([n.filled.get(FIRST_AREA), n.filled.get(FIRST_AREA + 1)]).toEqual([35, 3]);
});

it('a full square fills its hull, an L does not', () => {
  const n = nestingOf(['......', '.####.', '.####.', '......', '.#....', '.#....', '.####.', '......']);
  expect(n.solidity(n.pieces[0])).toBeCloseTo(1, 6);
  expect(n.solidity(n.pieces[1])).toBeLessThan(0.8);
});

import { MARK, MIXED, OUTSIDE } from './labels';
import { byteAt, intAt, setByte, setInt, sixteenAt } from './memory';

const KEPT: i32 = 1;
const LOOKED_AT: i32 = 2;

@unmanaged
class RemoveDirt {
  distance: usize;
  labels: usize;
  runs: usize;
  runCount: i32;
  width: i32;
  total: i32;
  tolerance: i32;
  strong: f64;
  most: i32;
  state: usize;
  piece: usize;
}

/** See core/matte/removeDirt.ts. `state`: a byte a pixel, all 0. `piece`: room for `most` + 9 numbers. */
export function removeDirt(args: RemoveDirt): void {
  const distance = args.distance;
  const labels = args.labels;
  const runs = args.runs;
  const runCount = args.runCount;
  const width = args.width;
  const tolerance = args.tolerance;
  const strong = args.strong;
  const state = args.state;
  const low = i8x16.splat(<i8>min(tolerance, 255));
  const high = i8x16.splat(<i8>(<i32>Math.min(255, Math.ceil(strong))));
  for (let r = 0; r < runCount; r += 3) {
    if (intAt(runs, r) != MIXED) continue;
    const end = intAt(runs, r + 2);
    for (let i = intAt(runs, r + 1); i < end; i++) {
      while (
        i + 16 <= end &&
        !v128.any_true(v128.and(i8x16.gt_u(sixteenAt(distance, i), low), i8x16.le_u(sixteenAt(distance, i), high)))
      )
        i += 16;
      if (i >= end) break;
      const d = byteAt(distance, i);
      if (d <= tolerance || <f64>d >= strong || intAt(labels, i) != MARK || byteAt(state, i) != 0) continue;
      // What hangs on something that is kept is kept.
      if ((i >= width && byteAt(state, i - width) == KEPT) || (byteAt(state, max(0, i - 1)) == KEPT && i % width > 0))
        setByte(state, i, KEPT);
      else look(args, i);
    }
  }
}

function look(args: RemoveDirt, start: i32): void {
  const distance = args.distance;
  const labels = args.labels;
  const width = args.width;
  const total = args.total;
  const tolerance = args.tolerance;
  const strong = args.strong;
  const most = args.most;
  const state = args.state;
  const piece = args.piece;
  setInt(piece, 0, start);
  let count = 1;
  setByte(state, start, LOOKED_AT);
  let isDirt = true;
  for (let k = 0; k < count && isDirt; k++) {
    const i = intAt(piece, k);
    const x = i % width;
    const left = x > 0 ? -1 : 0;
    const right = x < width - 1 ? 1 : 0;
    const last = i + width < total ? i + width : i;
    for (let row = i >= width ? i - width : i; row <= last && isDirt; row += width) {
      for (let n = row + left; n <= row + right; n++) {
        // Enclosed ground is not dirt.
        if (intAt(labels, n) != MARK || byteAt(distance, n) <= tolerance || byteAt(state, n) == LOOKED_AT) continue;
        if (<f64>byteAt(distance, n) >= strong || byteAt(state, n) == KEPT || count >= most) {
          isDirt = false;
          break;
        }
        setByte(state, n, LOOKED_AT);
        setInt(piece, count++, n);
      }
    }
  }
  let isOutside = false;
  for (let k = 0; k < count && isDirt && !isOutside; k++)
    isOutside = touchesOutside(intAt(piece, k), labels, width, total);
  for (let k = 0; k < count; k++) {
    const i = intAt(piece, k);
    if (!isDirt) setByte(state, i, KEPT);
    else if (isOutside) setInt(labels, i, OUTSIDE);
    else setByte(distance, i, 0); // a crumb inside an enclosed area: it goes the way of that area
  }
}

function touchesOutside(i: i32, labels: usize, width: i32, total: i32): bool {
  return (
    (i > 0 && intAt(labels, i - 1) == OUTSIDE) ||
    (i + 1 < total && intAt(labels, i + 1) == OUTSIDE) ||
    (i >= width && intAt(labels, i - width) == OUTSIDE) ||
    (i + width < total && intAt(labels, i + width) == OUTSIDE)
  );
}

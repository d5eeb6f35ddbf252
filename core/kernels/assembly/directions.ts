import { B0, B1, B2, groundAt } from './ground';
import { channelAt, intAt, setInt, setReal } from './memory';

/** Nearer to the ground than this, code values, a colour has no direction to speak of. */
const LEAST_LENGTH: f64 = 12;
/** Directions are told apart in so many steps each way. */
const STEPS: f64 = 9;

@unmanaged
class BinDirections {
  picture: usize;
  width: i32;
  list: usize;
  count: i32;
  step: i32;
  pixels: usize;
  keys: usize;
  lengths: usize;
  counts: usize;
}

/**
 * In which direction from the ground, and how far, every `step`th pixel of a list lies; those too near it are left out.
 * For each: `pixels` and `keys` a number, `lengths` a real. `counts`: a number for each of 32768 keys, all 0. Returns
 * how many there are.
 */
export function binDirections(args: BinDirections): i32 {
  const picture = args.picture;
  const width = args.width;
  const list = args.list;
  const count = args.count;
  const step = args.step;
  const pixels = args.pixels;
  const keys = args.keys;
  const lengths = args.lengths;
  const counts = args.counts;
  let found = 0;
  for (let k = 0; k < count; k += step) {
    const i = intAt(list, k);
    const y = i / width;
    groundAt(i - y * width, y);
    const r = <f64>channelAt(picture, i, 0) - B0,
      g = <f64>channelAt(picture, i, 1) - B1,
      b = <f64>channelAt(picture, i, 2) - B2;
    const length = Math.sqrt(r * r + g * g + b * b);
    if (length < LEAST_LENGTH) continue;
    const scale = STEPS / length;
    const key = (stepsOf(r * scale) * 32 + stepsOf(g * scale)) * 32 + stepsOf(b * scale);
    setInt(counts, key, intAt(counts, key) + 1);
    setInt(pixels, found, i);
    setInt(keys, found, key);
    setReal(lengths, found++, length);
  }
  return found;
}

// @ts-ignore: decorator
@inline function stepsOf(v: f64): i32 {
  return <i32>(Math.floor(v + 0.5) + STEPS);
}

@unmanaged
class OfDirection {
  key: i32;
  count: i32;
  pixels: usize;
  keys: usize;
  lengths: usize;
  outPixels: usize;
  outLengths: usize;
}

/** The pixels and lengths of one key; returns how many there are. */
export function ofDirection(args: OfDirection): i32 {
  const key = args.key;
  const count = args.count;
  const pixels = args.pixels;
  const keys = args.keys;
  const lengths = args.lengths;
  const outPixels = args.outPixels;
  const outLengths = args.outLengths;
  let found = 0;
  for (let k = 0; k < count; k++) {
    if (intAt(keys, k) != key) continue;
    setInt(outPixels, found, intAt(pixels, k));
    store<f64>(outLengths + ((<usize>found) << 3), load<f64>(lengths + ((<usize>k) << 3)));
    found++;
  }
  return found;
}

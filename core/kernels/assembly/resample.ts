// Resampling of rows in linear light; see core/raster/resize.ts. Four reals of 32 bits a pixel: premultiplied linear
// R, G, B and alpha, 0..65535. A plan holds four numbers for each output sample: the first source sample, how many, and
// the main lobe's from and to among them; beside it so many weights for each, 32 bits each.

const PLAN_BYTES: i32 = 16;
const FULL: f32 = 65535;

@unmanaged
class ResampleRow {
  pixels: usize;
  width: i32;
  table: usize;
  linear: usize;
  plan: usize;
  weights: usize;
  most: i32;
  isClamped: bool;
  outWidth: i32;
  out: usize;
  runs: usize;
  y: i32;
  before: usize;
  since: usize;
}

/**
 * One row at another width. `pixels`: the row, straight RGBA of 8 bits. `table`: linear light of every code value, 32
 * bits each. `linear`: scratch, four reals for each source pixel. `out`: four reals for each output pixel. `isClamped`:
 * a result is kept between the least and the most of its main lobe. Most of a mark is flat: where all that a sample is
 * made of is one colour it is that colour. `runs`: scratch, a number for each source pixel. `y`: number of the row;
 * `before`: the row before it in `out`'s place, or 0; `since`: for each output pixel, from which row on it is the same.
 */
export function resampleRow(row: ResampleRow): void {
  const pixels = row.pixels;
  const width = row.width;
  const table = row.table;
  const linear = row.linear;
  const runs = row.runs;
  let last = load<u32>(pixels);
  let light = lightOf(pixels, table);
  let run = 0;
  for (let x = 0; x < width; x++) {
    const p = pixels + ((<usize>x) << 2);
    const colour = load<u32>(p);
    if (colour != last) {
      last = colour;
      light = lightOf(p, table);
      run = 0;
    }
    run++;
    v128.store(linear + ((<usize>x) << 4), light);
    store<i32>(runs + ((<usize>x) << 2), run);
  }
  const out = row.out;
  const outWidth = row.outWidth;
  const before = row.before;
  const since = row.since;
  const plan = row.plan;
  for (let x = 0; x < outWidth; x++) {
    const own = plan + <usize>x * PLAN_BYTES;
    const first = load<i32>(own);
    const count = load<i32>(own, 4);
    const isFlat = load<i32>(runs + ((<usize>(first + count - 1)) << 2)) >= count;
    const at = (<usize>x) << 4;
    const v = isFlat ? v128.load(linear + ((<usize>first) << 4)) : sumOf(linear, row, x);
    v128.store(out + at, v);
    if (before == 0 || v128.any_true(v128.xor(v, v128.load(before + at)))) store<i32>(since + ((<usize>x) << 2), row.y);
  }
}

/** A pixel in linear light. */
// @ts-ignore: decorator
@inline
function lightOf(p: usize, table: usize): v128 {
  const alpha = <f32>load<u8>(p, 3);
  const share = alpha / 255;
  let v = f32x4.splat(alpha * 257);
  v = f32x4.replace_lane(v, 0, load<f32>(table + ((<usize>load<u8>(p)) << 2)) * share);
  v = f32x4.replace_lane(v, 1, load<f32>(table + ((<usize>load<u8>(p, 1)) << 2)) * share);
  return f32x4.replace_lane(v, 2, load<f32>(table + ((<usize>load<u8>(p, 2)) << 2)) * share);
}

/** The weighted sum of a row's pixels for output sample `o`. */
// @ts-ignore: decorator
@inline
function sumOf(first: usize, row: ResampleRow, o: i32): v128 {
  const plan = row.plan + o * PLAN_BYTES;
  const count = load<i32>(plan, 4);
  let from = first + (load<i32>(plan) << 4);
  let weight = row.weights + ((o * row.most) << 2);
  if (!row.isClamped) {
    let sum = f32x4.splat(0);
    for (let k = 0; k < count; k++) {
      sum = f32x4.add(sum, f32x4.mul(v128.load(from), v128.load32_splat(weight)));
      from += 16;
      weight += 4;
    }
    return sum;
  }
  const lobe = load<i32>(plan, 8);
  const end = load<i32>(plan, 12);
  let sum = f32x4.splat(0);
  let least = f32x4.splat(FULL);
  let most = f32x4.splat(0);
  for (let k = 0; k < count; k++) {
    const v = v128.load(from);
    sum = f32x4.add(sum, f32x4.mul(v, v128.load32_splat(weight)));
    if (k >= lobe && k < end) {
      least = f32x4.pmin(least, v);
      most = f32x4.pmax(most, v);
    }
    from += 16;
    weight += 4;
  }
  return f32x4.pmax(least, f32x4.pmin(most, sum));
}

@unmanaged
class BlendRows {
  ring: usize;
  rows: i32;
  width: i32;
  plan: usize;
  weights: usize;
  most: i32;
  isClamped: bool;
  row: i32;
  codes: usize;
  places: usize;
  since: usize;
  out: usize;
}

/**
 * One row of the result out of rows in linear light. `ring`: rows of four reals a pixel; source row `y` lies at place
 * `y % rows`. `codes`: the code value of every linear light 0..65535, a byte each. `places`: scratch, a
 * number for each tap. `since`: from which row on each pixel is the same. `out`: straight RGBA of 8 bits, all 0 where
 * nothing is visible.
 */
export function blendRows(blend: BlendRows): void {
  const ring = blend.ring;
  const rows = blend.rows;
  const width = blend.width;
  const codes = blend.codes;
  const places = blend.places;
  const out = blend.out;
  const plan = blend.plan + blend.row * PLAN_BYTES;
  const first = load<i32>(plan);
  const count = load<i32>(plan, 4);
  const lobe = load<i32>(plan, 8);
  const end = load<i32>(plan, 12);
  const isClamped = blend.isClamped;
  const rowBytes = width << 4;
  const weights = blend.weights + ((blend.row * blend.most) << 2);
  for (let k = 0; k < count; k++)
    store<usize>(places + ((<usize>k) << 2), ring + <usize>((first + k) % rows) * rowBytes);
  const since = blend.since;
  const top = load<usize>(places);
  let last = f32x4.splat(-1);
  let pixel: u32 = 0;
  for (let x = 0; x < width; x++) {
    const b = (<usize>x) << 4;
    let v: v128;
    if (load<i32>(since + ((<usize>x) << 2)) <= first) v = v128.load(top + b);
    else {
      v = f32x4.splat(0);
      let least = f32x4.splat(FULL);
      let most = f32x4.splat(0);
      for (let k = 0; k < count; k++) {
        const p = v128.load(load<usize>(places + ((<usize>k) << 2)) + b);
        v = f32x4.add(v, f32x4.mul(p, v128.load32_splat(weights + ((<usize>k) << 2))));
        if (isClamped && k >= lobe && k < end) {
          least = f32x4.pmin(least, p);
          most = f32x4.pmax(most, p);
        }
      }
      if (isClamped) v = f32x4.pmax(least, f32x4.pmin(most, v));
    }
    if (v128.any_true(v128.xor(v, last))) {
      last = v;
      pixel = pixelOf(v, codes);
    }
    store<u32>(out + ((<usize>x) << 2), pixel);
  }
}

/** Straight RGBA of a pixel in linear light. */
// @ts-ignore: decorator
@inline
function pixelOf(v: v128, codes: usize): u32 {
  const a = f32x4.extract_lane(v, 3);
  const alpha = <u32>Mathf.floor(max<f32>(0, min<f32>(FULL, a)) / 257 + 0.5);
  if (alpha == 0) return 0;
  const unmultiply = FULL / a;
  const r = <u32>codeOf(codes, f32x4.extract_lane(v, 0) * unmultiply);
  const g = <u32>codeOf(codes, f32x4.extract_lane(v, 1) * unmultiply);
  const c = <u32>codeOf(codes, f32x4.extract_lane(v, 2) * unmultiply);
  return r | (g << 8) | (c << 16) | (alpha << 24);
}

// @ts-ignore: decorator
@inline
function codeOf(codes: usize, light: f32): u8 {
  return load<u8>(codes + <usize>(<i32>Mathf.floor(max<f32>(0, min<f32>(FULL, light)) + 0.5)));
}

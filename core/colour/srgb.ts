/**
 * sRGB transfer functions, IEC 61966-2-1:1999, as tables.
 * Linear light is held in 16-bit integers (0..65535): tables of rounded integers are the same on every host,
 * which `Math.pow` alone does not promise to the last bit.
 */
export const LINEAR_MAX = 65535;

/** sRGB code value 0..255 to linear light 0..65535. */
export const linearFromSrgb: Uint16Array = (() => {
  const table = new Uint16Array(256);
  for (let i = 0; i < 256; i++) {
    const c = i / 255;
    table[i] = Math.round((c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4) * LINEAR_MAX);
  }
  return table;
})();

/** Linear light 0..65535 to the nearest sRGB code value: the inverse of `linearFromSrgb`, exact on its values. */
export const srgbFromLinear: Uint8Array = (() => {
  const table = new Uint8Array(LINEAR_MAX + 1);
  let from = 0;
  for (let code = 0; code < 255; code++) {
    const to = Math.ceil((linearFromSrgb[code] + linearFromSrgb[code + 1]) / 2);
    table.fill(code, from, to);
    from = to;
  }
  return table.fill(255, from);
})();

export type Rgb = readonly [number, number, number];

/** `[r, g, b]` in 0..255 from `#rrggbb`; the caller has checked the form. */
export const rgbFromHex = (hex: string): Rgb => {
  const v = parseInt(hex.slice(1), 16);
  return [(v >> 16) & 255, (v >> 8) & 255, v & 255];
};

export const hexFromRgb = (rgb: ArrayLike<number>): string =>
  `#${[0, 1, 2].map((i) => Math.round(rgb[i]).toString(16).padStart(2, '0')).join('')}`;

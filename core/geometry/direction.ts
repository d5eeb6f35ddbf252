const PARTS = 1e6;

/** A direction of length 1, 0° to the right and 90° down; rounded, so that it is the same on every engine. */
export function directionOf(deg: number): readonly [number, number] {
  const rad = (deg * Math.PI) / 180;
  return [Math.round(Math.cos(rad) * PARTS) / PARTS, Math.round(Math.sin(rad) * PARTS) / PARTS];
}

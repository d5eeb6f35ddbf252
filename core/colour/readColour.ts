import { displayable, formatHex, parse, toGamut } from 'culori';

const intoSrgb = toGamut('rgb', 'oklch');

/**
 * A colour as people and programs write it: hex, `rgb()`, `hsl()`, `hwb()`, `lab()`, `oklch()` and the names of CSS
 * Color 4. What a screen cannot show comes as near as its hue and lightness allow.
 * @returns `#rrggbb`, or null for what is no colour, or is partly see-through
 */
export function readColour(text: string): string | null {
  const word = text.trim().toLowerCase();
  const found = parse(/^[0-9a-f]{6}$/.test(word) ? `#${word}` : word);
  if (!found || (found.alpha ?? 1) < 1) return null;
  return formatHex(displayable(found) ? found : intoSrgb(found));
}

import { layOutLine, lineWidth } from '../core/type/setType';
import { pathDataFrom } from './pathData';
import { loadTypeface } from '../codecs/loadTypeface';

export const fontFiles = {
  grotesque: '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-800-normal.woff',
  sans: '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff',
  thin: '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-300-normal.woff',
  script: '@fontsource/great-vibes/files/great-vibes-latin-400-normal.woff',
} as const;
export type FontName = keyof typeof fontFiles;

const font = (name: FontName) => loadTypeface(fontFiles[name]);

export const textWidth = (text: string, name: FontName, size: number, spacing = 0): number =>
  lineWidth(text, font(name), size, spacing);

/** SVG path data of a line of text with its baseline at (x, y). */
export const textPath = (text: string, name: FontName, size: number, x: number, y: number, spacing = 0): string =>
  [...layOutLine(text, font(name), size, spacing)]
    .map((g) => pathDataFrom(g.glyph.getPath(0, 0, size).commands, (px, py) => [x + g.x + px, y + py]))
    .join('');

export interface TextStyle {
  readonly name: FontName;
  readonly size: number;
  readonly spacing?: number;
}
export interface Circle {
  readonly cx: number;
  readonly cy: number;
  readonly radius: number;
  readonly angleRad: number;
  /** The letters' feet point away from the middle. */
  readonly isInward?: boolean;
}

/** SVG path data of a line of text along a circle, its middle at `angleRad` (0 at the top, clockwise). */
export function textOnCircle(text: string, style: TextStyle, circle: Circle): string {
  const { name, size, spacing = 0 } = style;
  const { cx, cy, radius, angleRad, isInward = false } = circle;
  const total = textWidth(text, name, size, spacing);
  let d = '';
  for (const g of layOutLine(text, font(name), size, spacing)) {
    const along = (g.x + g.advance / 2 - total / 2) / radius;
    const a = isInward ? angleRad - along : angleRad + along;
    const turn = isInward ? a + Math.PI : a;
    const [ox, oy] = [cx + radius * Math.sin(a), cy - radius * Math.cos(a)];
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    d += pathDataFrom(g.glyph.getPath(-g.advance / 2, 0, size).commands, (px, py) => [
      ox + px * cos - py * sin,
      oy + px * sin + py * cos,
    ]);
  }
  return d;
}

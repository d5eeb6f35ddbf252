import opentype from 'opentype.js';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);

export const fontFiles = {
  grotesque: '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-800-normal.woff',
  sans: '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff',
  thin: '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-300-normal.woff',
  script: '@fontsource/great-vibes/files/great-vibes-latin-400-normal.woff',
} as const;
export type FontName = keyof typeof fontFiles;

interface Command { type: string; x?: number; y?: number; x1?: number; y1?: number; x2?: number; y2?: number }
interface Glyph { advanceWidth: number; getPath(x: number, y: number, size: number): { commands: Command[] } }
interface Font { unitsPerEm: number; charToGlyph(c: string): Glyph; getKerningValue(a: Glyph, b: Glyph): number }

const loaded = new Map<FontName, Font>();

function font(name: FontName): Font {
  let found = loaded.get(name);
  if (!found) {
    const file = readFileSync(require.resolve(fontFiles[name]));
    found = opentype.parse(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength)) as unknown as Font;
    loaded.set(name, found);
  }
  return found;
}

// Commands are printed by ourselves: the library's own printing can yield NaN.
function pathData(commands: Command[], place: (x: number, y: number) => [number, number]): string {
  const point = (x?: number, y?: number) => place(x ?? 0, y ?? 0).map((v) => v.toFixed(2)).join(' ');
  return commands.map((c) => {
    if (c.type === 'Z') return 'Z';
    if (c.type === 'C') return `C${point(c.x1, c.y1)} ${point(c.x2, c.y2)} ${point(c.x, c.y)}`;
    if (c.type === 'Q') return `Q${point(c.x1, c.y1)} ${point(c.x, c.y)}`;
    return `${c.type}${point(c.x, c.y)}`;
  }).join('');
}

function* layOut(text: string, name: FontName, size: number, spacing: number): Generator<{ glyph: Glyph; x: number; advance: number }> {
  const f = font(name);
  let x = 0;
  let last: Glyph | null = null;
  for (const c of text) {
    const glyph = f.charToGlyph(c);
    if (last) x += (f.getKerningValue(last, glyph) * size) / f.unitsPerEm;
    const advance = (glyph.advanceWidth * size) / f.unitsPerEm + spacing;
    yield { glyph, x, advance };
    x += advance;
    last = glyph;
  }
}

export function textWidth(text: string, name: FontName, size: number, spacing = 0): number {
  let width = 0;
  for (const { x, advance } of layOut(text, name, size, spacing)) width = x + advance;
  return width;
}

/** SVG path data of a line of text with its baseline at (x, y). */
export function textPath(text: string, name: FontName, size: number, x: number, y: number, spacing = 0): string {
  let d = '';
  for (const g of layOut(text, name, size, spacing)) d += pathData(g.glyph.getPath(0, 0, size).commands, (px, py) => [x + g.x + px, y + py]);
  return d;
}

/** SVG path data of a line of text along a circle, its middle at `angleRad` (0 at the top, clockwise). */
export function textOnCircle(text: string, name: FontName, size: number, cx: number, cy: number, radius: number, angleRad: number, spacing: number, isInward = false): string {
  const total = textWidth(text, name, size, spacing);
  let d = '';
  for (const g of layOut(text, name, size, spacing)) {
    const along = (g.x + g.advance / 2 - total / 2) / radius;
    const a = isInward ? angleRad - along : angleRad + along;
    const turn = isInward ? a + Math.PI : a;
    const [ox, oy] = [cx + radius * Math.sin(a), cy - radius * Math.cos(a)];
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    d += pathData(g.glyph.getPath(-g.advance / 2, 0, size).commands, (px, py) => [ox + px * cos - py * sin, oy + px * sin + py * cos]);
  }
  return d;
}

import { CoreError } from '../errors';
import { type Path, PathBuilder, type PathCommand, pathFromCommands } from '../vector/path';

/** What is needed of a font; a parsed font of a font library has it. */
export interface TypeGlyph {
  readonly index?: number;
  readonly advanceWidth: number;
  getPath(x: number, y: number, size: number): { readonly commands: readonly PathCommand[] };
}
export interface TypeFont {
  readonly unitsPerEm: number;
  charToGlyph(character: string): TypeGlyph;
  getKerningValue(left: TypeGlyph, right: TypeGlyph): number;
}

export interface TypeOptions {
  /** Size of the type in px of the result. */
  readonly sizePx: number;
  /** Between letters, as a share of the size; below 0 closer. */
  readonly spacing: number;
  /** From baseline to baseline, as a share of the size. */
  readonly lineHeight: number;
  readonly align: 'left' | 'centre' | 'right';
}

export interface PlacedGlyph {
  readonly glyph: TypeGlyph;
  readonly x: number;
  readonly advance: number;
}

/** One line's glyphs with their places along it. @param spacingPx between letters */
export function* layOutLine(text: string, font: TypeFont, sizePx: number, spacingPx: number): Generator<PlacedGlyph> {
  let x = 0;
  let last: TypeGlyph | null = null;
  for (const c of text) {
    const glyph = font.charToGlyph(c);
    if (last) x += (font.getKerningValue(last, glyph) * sizePx) / font.unitsPerEm;
    const advance = (glyph.advanceWidth * sizePx) / font.unitsPerEm + spacingPx;
    yield { glyph, x, advance };
    x += advance;
    last = glyph;
  }
}

/** Width of a line, px. */
export function lineWidth(text: string, font: TypeFont, sizePx: number, spacingPx: number): number {
  let width = 0;
  for (const { x, advance } of layOutLine(text, font, sizePx, spacingPx)) width = x + advance;
  return width;
}

/** The first character that a font has no glyph for, or null. */
export function missingCharacter(lines: readonly string[], font: TypeFont): string | null {
  for (const c of lines.join('')) if (font.charToGlyph(c).index === 0) return c;
  return null;
}

/**
 * Lines of text as one path, the first baseline at y = 0.
 * @throws CoreError 'type/empty' when nothing is to be set, 'type/no-glyph' naming a character that the font lacks
 */
export function setType(
  lines: readonly string[],
  font: TypeFont,
  { sizePx, spacing, lineHeight, align }: TypeOptions,
): Path {
  if (lines.every((l) => l.trim() === '')) throw new CoreError('type/empty', 'Type at least one letter.');
  const missing = missingCharacter(lines, font);
  if (missing)
    throw new CoreError(
      'type/no-glyph',
      `This typeface has no “${missing}”. Choose another typeface, or leave the character out.`,
      { character: missing },
    );
  const spacingPx = spacing * sizePx;
  const widths = lines.map((l) => lineWidth(l, font, sizePx, spacingPx));
  const widest = Math.max(...widths);
  const out = new PathBuilder();
  lines.forEach((line, k) => {
    const left = align === 'left' ? 0 : (widest - widths[k]) * (align === 'centre' ? 0.5 : 1);
    const y = k * lineHeight * sizePx;
    for (const g of layOutLine(line, font, sizePx, spacingPx)) {
      pathFromCommands(g.glyph.getPath(0, 0, sizePx).commands, (px, py) => [left + g.x + px, y + py], out);
    }
  });
  return out.done();
}

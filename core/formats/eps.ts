import { type Drawing, type Paint, type Shape, type Stop, wholeStops } from '../artwork/drawing';
import { rgbFromHex } from '../colour/hex';
import { coordsOf } from '../vector/path';
import { defineFormat } from './format';
import { pointsOf } from './page';

declare const TextEncoder: new () => { encode(text: string): Uint8Array };

const f = (v: number) => String(Math.round(v * 1e4) / 1e4);

/**
 * Encapsulated PostScript of language level 3: paths and gradients, nothing see-through.
 * @see Adobe, "PostScript Language Reference", third edition, 1999, 4.9.3 (shading types 2 and 3); "Encapsulated
 *   PostScript File Format Specification" 3.0, 1992
 */
export const eps = defineFormat({
  id: 'eps',
  title: 'EPS',
  extension: 'eps',
  mimeType: 'application/postscript',
  accepts: 'paths',
  hint: 'Paths for print programs that take no PDF; it has no transparency.',
  params: {},
  isHard: true,
  async write(file) {
    const { width, height, scale } = pointsOf(file);
    const drawing = file.drawing as Drawing;
    const head = [
      '%!PS-Adobe-3.0 EPSF-3.0',
      `%%BoundingBox: 0 0 ${Math.ceil(width - 1e-6)} ${Math.ceil(height - 1e-6)}`,
      `%%HiResBoundingBox: 0 0 ${f(width)} ${f(height)}`,
      '%%LanguageLevel: 3',
      '%%DocumentData: Clean7Bit',
      '%%Pages: 1',
      '%%EndComments',
      '%%Page: 1 1',
      'gsave',
      // Down is up in PostScript.
      `[${f(scale)} 0 0 ${f(-scale)} 0 ${f(height)}] concat`,
    ];
    const body = drawing.shapes.flatMap(paintShape);
    const text = [...head, ...body, 'grestore', 'showpage', '%%EOF', ''].join('\n');
    return new TextEncoder().encode(text);
  },
});

function paintShape({ path, rule, paint }: Shape): string[] {
  const lines = ['newpath'];
  for (let v = 0, k = 0; v < path.verbs.length; v++) {
    const verb = path.verbs[v];
    const c = path.coords.slice(k, k + coordsOf(verb)).map(f);
    k += c.length;
    lines.push(`${c.join(' ')} ${{ M: 'moveto', L: 'lineto', C: 'curveto', Z: 'closepath' }[verb]}`.trim());
  }
  const even = rule === 'evenodd' ? 'eo' : '';
  if (paint.kind === 'colour') return [...lines, `${colour(paint.hex)} setrgbcolor ${even}fill`];
  return ['gsave', ...lines, `${even}clip newpath`, `${shading(paint)} shfill`, 'grestore'];
}

const colour = (hex: string) =>
  rgbFromHex(hex)
    .map((v) => f(v / 255))
    .join(' ');

function shading({ kind, geometry, stops }: Exclude<Paint, { kind: 'colour' }>): string {
  const g = geometry as unknown as Record<string, number>;
  const coords = kind === 'linear' ? [g.x1, g.y1, g.x2, g.y2] : [g.cx, g.cy, 0, g.cx, g.cy, g.r];
  return (
    `<< /ShadingType ${kind === 'linear' ? 2 : 3} /ColorSpace /DeviceRGB /Coords [${coords.map(f).join(' ')}] ` +
    `/Extend [true true] /Function ${functionOf(stops)} >>`
  );
}

function functionOf(stops: readonly Stop[]): string {
  const all = wholeStops(stops);
  const parts = all
    .slice(1)
    .map((to, k) => `<< /FunctionType 2 /Domain [0 1] /C0 [${colour(all[k].hex)}] /C1 [${colour(to.hex)}] /N 1 >>`);
  const bounds = all.slice(1, -1).map((s) => f(s.at));
  return (
    `<< /FunctionType 3 /Domain [0 1] /Functions [${parts.join(' ')}] /Bounds [${bounds.join(' ')}] ` +
    `/Encode [${parts.map(() => '0 1').join(' ')}] >>`
  );
}

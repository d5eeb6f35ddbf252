import type { Drawing, Paint, Shape } from '../artwork/drawing';
import { printNumber, printPath } from '../vector/path';
import { choiceField } from '../params';
import { base64 } from '../text/base64';
import { type FileContent, defineFormat, embedField, encoded } from './format';
import { CSS_PPI, MM_PER_INCH } from '../units';

declare const TextEncoder: new () => { encode(text: string): Uint8Array };

/** Digits after the point: on a page of 2400 px less than a thousandth of a pixel, also at seven times its size. */
const DIGITS = 4;

/** Paths and their paints in a view that is exactly the page; nothing else inside. */
export const svg = defineFormat({
  id: 'svg',
  title: 'SVG',
  extension: 'svg',
  mimeType: 'image/svg+xml',
  accepts: 'paths',
  hint: 'Paths, sharp at any size.',
  params: {
    unit: choiceField({
      label: 'Unit',
      hint: 'Of its width and height; as the size was asked for, or always the one.',
      initial: 'asked',
      choices: [
        { value: 'asked', label: 'As asked' },
        { value: 'px', label: 'px' },
        { value: 'mm', label: 'mm' },
      ],
    }),
    embed: embedField,
  },
  embeds: (p) => p.embed,
  async write(file, { unit }, host) {
    const ppi = unit === 'px' ? null : unit === 'mm' ? (file.ppi ?? CSS_PPI) : file.ppi;
    // Told in px, a size on paper is that of style sheets.
    const times = unit === 'px' && file.ppi !== null ? CSS_PPI / file.ppi : 1;
    const page = { widthPx: file.widthPx * times, heightPx: file.heightPx * times, ppi };
    if (file.drawing) return new TextEncoder().encode(printSvg(file.drawing, page));
    const picture = await encoded('png', { ...file, ppi: null }, host, { palette: true });
    return new TextEncoder().encode(printPicture(picture, file, page));
  },
});

const f = (v: number) => printNumber(v, DIGITS);

/** A drawing as an SVG document. @param page  its size as programs are told it */
export function printSvg(drawing: Drawing, page: Pick<FileContent, 'widthPx' | 'heightPx' | 'ppi'>): string {
  const gradients = drawing.shapes.flatMap((shape, k) => gradientOf(shape.paint, `g${k + 1}`));
  const defs = gradients.length ? `<defs>${gradients.join('')}</defs>` : '';
  const paths = drawing.shapes.map((shape, k) => pathOf(shape, `g${k + 1}`)).join('');
  return wrap(`${defs}${paths}`, drawing.widthPx, drawing.heightPx, page);
}

type Page = Pick<FileContent, 'widthPx' | 'heightPx' | 'ppi'>;

function wrap(inner: string, width: number, height: number, { widthPx, heightPx, ppi }: Page): string {
  const length = (px: number) => (ppi === null ? f(px) : `${f((px / ppi) * MM_PER_INCH)}mm`);
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${length(widthPx)}" ` +
    `height="${length(heightPx)}" viewBox="0 0 ${f(width)} ${f(height)}">${inner}</svg>\n`
  );
}

/** A picture of the page, for whoever asks for one in a format of paths. */
const printPicture = (png: Uint8Array, { widthPx, heightPx }: Page, page: Page): string =>
  wrap(
    `<image width="${f(widthPx)}" height="${f(heightPx)}" href="data:image/png;base64,${base64(png)}"/>`,
    widthPx,
    heightPx,
    page,
  );

function pathOf({ path, rule, paint, opacity }: Shape, gradient: string): string {
  const fill = paint.kind === 'colour' ? paint.hex : `url(#${gradient})`;
  const evenOdd = rule === 'evenodd' ? ' fill-rule="evenodd"' : '';
  const faint = opacity < 1 ? ` fill-opacity="${f(opacity)}"` : '';
  return `<path d="${printPath(path, DIGITS)}" fill="${fill}"${evenOdd}${faint}/>`;
}

function gradientOf(paint: Paint, id: string): string[] {
  if (paint.kind === 'colour') return [];
  const stops = paint.stops.map((s) => `<stop offset="${f(s.at)}" stop-color="${s.hex}"/>`).join('');
  const attributes = Object.entries(paint.geometry).map(([name, v]) => `${name}="${f(v)}"`);
  const kind = `${paint.kind}Gradient`;
  return [`<${kind} id="${id}" gradientUnits="userSpaceOnUse" ${attributes.join(' ')}>${stops}</${kind}>`];
}

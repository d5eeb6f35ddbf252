import type { Drawing, Paint, Shape } from '../artwork/drawing';
import { printNumber, printPath } from '../vector/path';
import { type FileContent, defineFormat } from './format';

declare const TextEncoder: new () => { encode(text: string): Uint8Array };

/** Digits after the point: on a page of 2400 px less than a thousandth of a pixel, also at seven times its size. */
const DIGITS = 4;
const MM_PER_INCH = 25.4;

/** Paths and their paints in a view that is exactly the page; nothing else inside. */
export const svg = defineFormat({
  id: 'svg',
  title: 'SVG',
  extension: 'svg',
  mimeType: 'image/svg+xml',
  accepts: 'paths',
  hint: 'Paths, sharp at any size.',
  params: {},
  write: async (file) => new TextEncoder().encode(printSvg(file.drawing as Drawing, file)),
});

const f = (v: number) => printNumber(v, DIGITS);

/** A drawing as an SVG document. @param page  its size as programs are told it */
export function printSvg(drawing: Drawing, page: Pick<FileContent, 'widthPx' | 'heightPx' | 'ppi'>): string {
  const { ppi } = page;
  const length = (px: number) => (ppi === null ? f(px) : `${f((px / ppi) * MM_PER_INCH)}mm`);
  const gradients = drawing.shapes.flatMap((shape, k) => gradientOf(shape.paint, `g${k + 1}`));
  const defs = gradients.length ? `<defs>${gradients.join('')}</defs>` : '';
  const paths = drawing.shapes.map((shape, k) => pathOf(shape, `g${k + 1}`)).join('');
  const view = `viewBox="0 0 ${f(drawing.widthPx)} ${f(drawing.heightPx)}"`;
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${length(page.widthPx)}" ` +
    `height="${length(page.heightPx)}" ${view}>${defs}${paths}</svg>\n`
  );
}

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

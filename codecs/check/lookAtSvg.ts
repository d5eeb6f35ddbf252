import { Resvg } from '@resvg/resvg-js';
import { SaxesParser } from 'saxes';
import { readColour } from '../../core/colour/readColour';
import type { Raster } from '../../core/raster/raster';
import type { Look } from './look';

/** Drawings are looked at in so many pixels along their longer side. */
export const LOOK_PX = 1000;
const MM: Record<string, number> = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6 };
const STRANGE = ['script', 'foreignObject', 'animate', 'set', 'metadata'];

/** An SVG, by an XML parser that knows nothing of drawings, and rendered by a program of its own. @throws Error */
export function lookAtSvg(bytes: Uint8Array): Look {
  const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  const counts = new Map<string, number>();
  const fills = new Set<string>();
  let root: Record<string, string> | null = null;
  const parser = new SaxesParser();
  parser.on('error', (cause) => {
    throw cause;
  });
  parser.on('opentag', ({ name, attributes }) => {
    const tag = name.replace(/^svg:/, '');
    counts.set(tag, (counts.get(tag) ?? 0) + 1);
    const own = attributes as Record<string, string>;
    if (tag === 'svg') root ??= own;
    for (const key of ['fill', 'stop-color']) {
      const hex = own[key] ? readColour(own[key]) : null;
      if (hex) fills.add(hex);
    }
  });
  parser.write(text).close();
  const page = root as Record<string, string> | null;
  if (!page) throw new Error('it holds no svg element');
  const count = (...tags: string[]) => tags.reduce((n, tag) => n + (counts.get(tag) ?? 0), 0);
  const view =
    page.viewBox
      ?.trim()
      .split(/[\s,]+/)
      .map(Number) ?? null;
  const [width, height] = [sizeOf(page.width, view?.[2]), sizeOf(page.height, view?.[3])];
  const isMm = width.unit === 'mm';
  return {
    ...{ format: 'svg', width: width.value, height: height.value, unit: isMm ? 'mm' : 'px', ppi: null },
    ...{ hasAlpha: true, profile: 'sRGB', isInterlaced: false },
    pixels: rendered(text, width.value, height.value),
    paths: count('path', 'rect', 'circle', 'ellipse', 'polygon', 'polyline', 'line'),
    fills: [...fills],
    fonts: count('text', 'font', 'font-face'),
    pictures: count('image'),
    problems: STRANGE.filter((tag) => counts.has(tag)).map((tag) => `holds a ${tag} element`),
  };
}

function sizeOf(text: string | undefined, fallback: number | undefined): { value: number; unit: 'px' | 'mm' } {
  const found = /^\s*([\d.]+(?:e[-+]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text ?? '');
  if (!found || found[2] === '%') {
    if (fallback === undefined) throw new Error('it has no size');
    return { value: fallback, unit: 'px' };
  }
  const mm = MM[found[2]];
  return mm ? { value: Number(found[1]) * mm, unit: 'mm' } : { value: Number(found[1]), unit: 'px' };
}

function rendered(text: string, width: number, height: number): Raster {
  const along = height > width ? 'height' : 'width';
  const image = new Resvg(text, { font: { loadSystemFonts: false }, fitTo: { mode: along, value: LOOK_PX } }).render();
  const { width: w, height: h } = image;
  const data = new Uint8Array(image.pixels);
  for (let i = 0; i < data.length; i += 4) {
    const a = data[i + 3];
    if (a > 0 && a < 255) for (let c = 0; c < 3; c++) data[i + c] = Math.min(255, Math.round((data[i + c] * 255) / a));
  }
  return { width: w, height: h, data };
}

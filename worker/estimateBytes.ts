import { printSvg } from '../core/formats/svg';
import type { FileContent } from '../core/formats/format';
import type { Raster } from '../core/raster/raster';
import type { Part } from '../core/recipe/recipe';

/** So many rows are packed together, at so many places of a page: what lies between is much alike. */
const BAND_ROWS = 32;
const BANDS = 12;
const MOST_COLOURS = 256;

/** What formats come to beside a PNG of the same page, as means over the demo's marks: rough. */
const BESIDE_PNG = { webp: 0.7, avif: 0.45, jpeg: 1.1, lzw: 1.5 };
/** Words of a drawing beside those of an SVG. */
const BESIDE_SVG: Record<string, number> = { svg: 1, pdf: 1.1, eps: 1.5 };

/** About how many bytes a page will have as a file; the browser has no encoder of most formats. */
export async function estimateBytes(content: FileContent, { id, params }: Part): Promise<number> {
  const { drawing, raster } = content;
  if (id in BESIDE_SVG && drawing) return Math.round(printSvg(drawing, content).length * BESIDE_SVG[id]);
  if (!raster) return 0;
  const channels = content.isGrey ? 1 : content.isOpaque ? 3 : 4;
  const pixels = raster.width * raster.height;
  if (id === 'tiff' && params.depth === '1') return Math.ceil(raster.width / 8) * raster.height + 500;
  if (id === 'tiff' && params.compression === 'none') return pixels * channels + 900;
  const png = await packedLength(raster, channels);
  if (id === 'ico') return Math.round((content.squares ?? []).reduce((n, s) => n + (png * s.width) / raster.width, 0));
  const times = id === 'tiff' ? BESIDE_PNG.lzw : id in BESIDE_PNG ? BESIDE_PNG[id as keyof typeof BESIDE_PNG] : 1;
  return Math.round(png * times);
}

/** A page's pixels packed as a PNG packs them: by a palette where there are few colours, by what changes otherwise. */
async function packedLength({ width, height, data }: Raster, channels: number): Promise<number> {
  const rows: number[] = [];
  const step = Math.max(BAND_ROWS, Math.floor(height / BANDS));
  for (let y = 0; y < height; y += step) for (let k = 0; k < BAND_ROWS && y + k < height; k++) rows.push(y + k);
  const px = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const numbers = new Map<number, number>();
  for (const y of rows) {
    for (let x = 0; x < width && numbers.size <= MOST_COLOURS; x++) {
      const c = px[y * width + x];
      if (!numbers.has(c)) numbers.set(c, numbers.size);
    }
  }
  const isIndexed = numbers.size <= MOST_COLOURS;
  const size = isIndexed ? 1 : channels;
  const packed = new Uint8Array(rows.length * (width * size + 1));
  let at = 0;
  for (const y of rows) {
    packed[at++] = 0;
    for (let x = 0; x < width; x++) {
      const p = (y * width + x) * 4;
      if (isIndexed) packed[at++] = numbers.get(px[y * width + x]) as number;
      else for (let c = 0; c < channels; c++) packed[at++] = data[p + c] - (x > 0 ? data[p - 4 + c] : 0);
    }
  }
  const stream = new Blob([packed]).stream().pipeThrough(new CompressionStream('deflate'));
  const { byteLength } = await new Response(stream).arrayBuffer();
  return Math.round((byteLength * height) / rows.length) + (isIndexed ? numbers.size * 4 : 0) + 120;
}

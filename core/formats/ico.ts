import { choiceField } from '../params';
import type { Raster } from '../raster/raster';
import { defineFormat } from './format';

const SETS: Record<string, readonly number[]> = {
  web: [48, 32, 16],
  desktop: [256, 128, 64, 48, 32, 24, 16],
};

const HEADER_BYTES = 6;
const ENTRY_BYTES = 16;

/**
 * Several squares in one file, each a PNG.
 * @see the layout of ICONDIR and ICONDIRENTRY: a header of type 1, then for each its sides (0 is 256), planes, bits,
 *   length and place
 */
export const ico = defineFormat({
  id: 'ico',
  title: 'ICO',
  extension: 'ico',
  mimeType: 'image/vnd.microsoft.icon',
  accepts: 'pixels',
  hint: 'Icons of several sizes in one file.',
  params: {
    set: choiceField({
      label: 'Sizes',
      initial: 'web',
      choices: [
        { value: 'web', label: '16, 32, 48 px' },
        { value: 'desktop', label: '16 to 256 px' },
      ],
    }),
  },
  squares: (p) => SETS[p.set],
  async write({ squares = [], isOpaque }, _, host) {
    const pictures = await Promise.all(
      squares.map((raster) => host.encode('png', raster, { ppi: null, palette: false, isOpaque })),
    );
    return joinIcons(squares, pictures);
  },
});

function joinIcons(squares: readonly Raster[], pictures: readonly Uint8Array[]): Uint8Array {
  const start = HEADER_BYTES + ENTRY_BYTES * pictures.length;
  const out = new Uint8Array(pictures.reduce((sum, p) => sum + p.length, start));
  const view = new DataView(out.buffer);
  view.setUint16(2, 1, true);
  view.setUint16(4, pictures.length, true);
  let at = start;
  pictures.forEach((picture, k) => {
    const entry = HEADER_BYTES + ENTRY_BYTES * k;
    out[entry] = squares[k].width % 256;
    out[entry + 1] = squares[k].height % 256;
    view.setUint16(entry + 4, 1, true);
    view.setUint16(entry + 6, 32, true);
    view.setUint32(entry + 8, picture.length, true);
    view.setUint32(entry + 12, at, true);
    out.set(picture, at);
    at += picture.length;
  });
  return out;
}

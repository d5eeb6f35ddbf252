import { type Look, ofPixels } from './look';
import { pixelsOfPng } from './lookAtPng';

const isPng = (b: Uint8Array) => b[0] === 0x89 && b[1] === 0x50;

/** Icons of several sizes, of which the largest is shown. Only those that are PNG inside are read. @throws Error */
export function lookAtIco(bytes: Uint8Array): Look {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const count = view.getUint16(4, true);
  if (view.getUint16(2, true) !== 1 || count === 0 || count > 64) throw new Error('its head is no head of icons');
  const problems: string[] = [];
  const icons = Array.from({ length: count }, (_, k) => {
    const entry = 6 + 16 * k;
    const [length, from] = [view.getUint32(entry + 8, true), view.getUint32(entry + 12, true)];
    if (from + length > bytes.length) throw new Error(`icon ${k + 1} lies outside of the file`);
    const data = bytes.subarray(from, from + length);
    if (!isPng(data)) throw new Error(`icon ${k + 1} is no PNG`);
    const pixels = pixelsOfPng(data);
    if (pixels.width % 256 !== bytes[entry] || pixels.height % 256 !== bytes[entry + 1])
      problems.push(`icon ${k + 1} is ${pixels.width} px wide, not as its entry says`);
    return { pixels, hasAlpha: data[25] === 6 || data[25] === 4 };
  });
  const largest = icons.reduce((a, b) => (b.pixels.width > a.pixels.width ? b : a));
  return {
    ...ofPixels(largest.pixels),
    ...{ format: 'ico', ppi: null, hasAlpha: icons.some((i) => i.hasAlpha), profile: null, pictures: count, problems },
  };
}

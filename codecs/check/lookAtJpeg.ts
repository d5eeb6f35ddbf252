import jpeg from 'jpeg-js';
import { type Look, ofPixels, profileName } from './look';

const CM_PER_INCH = 2.54;

/** A JPEG, by a decoder in script and a walk along its segments. @throws Error when it cannot be decoded */
export function lookAtJpeg(bytes: Uint8Array): Look {
  const { width, height, data } = jpeg.decode(bytes, {
    useTArray: true,
    maxMemoryUsageInMB: 2048,
    maxResolutionInMP: 300,
  });
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const problems: string[] = [];
  let [ppi, profile, isProgressive]: [number | null, string | null, boolean] = [null, null, false];
  for (let at = 2; at + 4 <= bytes.length && bytes[at] === 0xff;) {
    const marker = bytes[at + 1];
    if (marker === 0xda) break;
    const length = view.getUint16(at + 2);
    const head = new TextDecoder('latin1').decode(bytes.subarray(at + 4, at + 18));
    if (marker === 0xc2) isProgressive = true;
    if (marker === 0xe0 && head.startsWith('JFIF')) {
      const unit = bytes[at + 11];
      const density = view.getUint16(at + 12);
      if (unit > 0) ppi = unit === 1 ? density : density * CM_PER_INCH;
    } else if (marker === 0xe2 && head.startsWith('ICC_PROFILE')) {
      profile ??= profileName(bytes.subarray(at + 18, at + 2 + length));
    } else if (marker === 0xe1) {
      problems.push(`holds ${head.startsWith('Exif') ? 'EXIF' : 'XMP'} data`);
    } else if (marker === 0xfe) problems.push('holds a comment');
    else if (marker === 0xed) problems.push('holds IPTC data');
    at += 2 + length;
  }
  const pixels = { width, height, data: new Uint8Array(data) };
  return { ...ofPixels(pixels), format: 'jpeg', ppi, hasAlpha: false, profile, isInterlaced: isProgressive, problems };
}

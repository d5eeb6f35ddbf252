import type { Raster } from '../../core/raster/raster';
import { runOnFile } from '../runProgram';
import { pixelsOfPng } from './lookAtPng';
import { pixelsByLibrary } from './pixelsByLibrary';
import { type Look, ifThere, ofPixels, profileName } from './look';

/** A WebP, by the system's `dwebp` and a walk along its chunks. @throws Error when it cannot be decoded */
export async function lookAtWebp(bytes: Uint8Array): Promise<Look> {
  const pam = await ifThere(
    runOnFile('dwebp', bytes, (path, folder) => [path, '-pam', '-o', `${folder}/out`, '-quiet'], {
      ending: 'webp',
      output: 'out',
    }),
  );
  const pixels = pam ? pixelsOfPam(pam) : await pixelsByLibrary(bytes);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const problems: string[] = [];
  let [profile, hasAlpha]: [string | null, boolean] = [null, false];
  for (let at = 12; at + 8 <= bytes.length;) {
    const type = new TextDecoder('latin1').decode(bytes.subarray(at, at + 4));
    const length = view.getUint32(at + 4, true);
    const data = bytes.subarray(at + 8, at + 8 + length);
    if (type === 'ICCP') profile = profileName(data);
    if (type === 'EXIF' || type === 'XMP ') problems.push(`holds ${type.trim()} data`);
    if (type === 'ANIM') problems.push('is an animation');
    if (type === 'ALPH') hasAlpha = true;
    if (type === 'VP8X' && data[0] & 0x10) hasAlpha = true;
    // RFC 9649, 3.4: of lossless data the alpha hint is the bit after both sides of 14 bits.
    if (type === 'VP8L' && data[4] & 0x10) hasAlpha = true;
    at += 8 + length + (length & 1);
  }
  return { ...ofPixels(pixels), format: 'webp', ppi: null, hasAlpha, profile, problems };
}

/** Pixels of a plain picture file of RGBA. @see the manual page pam(5) of Netpbm */
function pixelsOfPam(bytes: Buffer): Raster {
  const end = bytes.indexOf('ENDHDR\n') + 'ENDHDR\n'.length;
  const head = bytes.toString('latin1', 0, end);
  const [width, height] = ['WIDTH', 'HEIGHT'].map((word) => Number(new RegExp(`${word} (\\d+)`).exec(head)?.[1]));
  if (!/TUPLTYPE RGB_ALPHA/.test(head)) throw new Error('its pixels are of another kind than RGBA');
  return { width, height, data: new Uint8Array(bytes.subarray(end, end + width * height * 4)) };
}

/** Pixels that a program of the system writes as a PNG; where it is missing, those of the one library that there is. */
export async function decodeBy(
  program: string,
  bytes: Uint8Array,
  ending: string,
  args: (path: string, folder: string) => string[],
): Promise<Raster> {
  const png = await ifThere(runOnFile(program, bytes, args, { ending, output: 'out.png' }));
  if (png) return pixelsOfPng(png);
  return pixelsByLibrary(bytes);
}

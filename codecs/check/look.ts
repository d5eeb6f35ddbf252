import type { Raster } from '../../core/raster/raster';
import { NoProgram } from '../runProgram';

/** What a reader that shares no code with our writers finds in a file. */
export interface Look {
  readonly format: string;
  /** In `unit`, as the file itself says. */
  readonly width: number;
  readonly height: number;
  readonly unit: 'px' | 'mm' | 'pt';
  /** Pixels per inch where the file tells. */
  readonly ppi: number | null;
  readonly hasAlpha: boolean;
  /** Its page in pixels, straight alpha; of several the largest; null where the program that draws it is missing. */
  readonly pixels: Raster | null;
  /** The name of its colour space; null where it tells none. */
  readonly profile: string | null;
  readonly isInterlaced: boolean;
  /** Filled outlines; null for formats of pixels. */
  readonly paths: number | null;
  /** Colours that paths are filled with, #rrggbb; null for formats of pixels. */
  readonly fills: readonly string[] | null;
  readonly fonts: number;
  readonly pictures: number;
  /** What should not be in it, or is not as it should be, in words. */
  readonly problems: readonly string[];
}

/** What a program of the system makes of a file; null where there is no such program. */
export async function ifThere<T>(work: Promise<T>): Promise<T | null> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof NoProgram) return null;
    throw error;
  }
}

/** What all formats of pixels have in common. */
export const ofPixels = (pixels: Raster) => ({
  ...{ width: pixels.width, height: pixels.height, unit: 'px' as const, pixels },
  ...{ paths: null, fills: null, fonts: 0, pictures: 1, isInterlaced: false },
});

/** The name in an ICC profile: its `desc` tag. @see ICC.1:2022, 7.2 and 10.15; ICC.1:2001-04, 6.5.17 */
export function profileName(icc: Uint8Array): string {
  const view = new DataView(icc.buffer, icc.byteOffset, icc.length);
  const latin = (from: number, to: number) => new TextDecoder('latin1').decode(icc.subarray(from, to));
  if (icc.length < 132) return 'a damaged profile';
  const count = Math.min(view.getUint32(128), 200);
  for (let k = 0, at = 132; k < count && at + 12 <= icc.length; k++, at += 12) {
    if (latin(at, at + 4) !== 'desc') continue;
    const [from, size] = [view.getUint32(at + 4), view.getUint32(at + 8)];
    if (from + size > icc.length || size < 16) break;
    if (latin(from, from + 4) === 'desc') return latin(from + 12, from + 11 + view.getUint32(from + 8)).trim();
    if (latin(from, from + 4) !== 'mluc') break;
    const [length, start] = [view.getUint32(from + 20), view.getUint32(from + 24)];
    return new TextDecoder('utf-16be').decode(icc.subarray(from + start, from + start + length)).trim();
  }
  return 'a profile without a name';
}

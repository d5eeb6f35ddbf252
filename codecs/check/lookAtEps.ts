import { hexFromRgb } from '../../core/colour/hex';
import { runOnFile } from '../runProgram';
import { type Look, ifThere } from './look';
import { pixelsOfPng } from './lookAtPng';
import { LOOK_PX } from './lookAtSvg';

/** An EPS, by its comments and operators, and drawn by the system's Ghostscript. @throws Error */
export async function lookAtEps(bytes: Uint8Array): Promise<Look> {
  const text = new TextDecoder('latin1').decode(bytes);
  const box = /^%%HiResBoundingBox:\s*([-\d.]+) ([-\d.]+) ([-\d.]+) ([-\d.]+)/m.exec(text);
  const whole = box ?? /^%%BoundingBox:\s*([-\d.]+) ([-\d.]+) ([-\d.]+) ([-\d.]+)/m.exec(text);
  if (!whole) throw new Error('it has no bounding box');
  const [left, bottom, right, top] = whole.slice(1).map(Number);
  const [width, height] = [right - left, top - bottom];
  const resolution = (LOOK_PX / Math.max(width, height)) * 72;
  const drawing = runOnFile(
    'gs',
    bytes,
    (path, folder) => [
      ...['-q', '-dSAFER', '-dBATCH', '-dNOPAUSE', '-dEPSCrop', '-sDEVICE=pngalpha', '-dGraphicsAlphaBits=4'],
      ...[`-r${resolution.toFixed(3)}`, `-sOutputFile=${folder}/out.png`, path],
    ],
    { ending: 'eps', output: 'out.png' },
  );
  const png = await ifThere(drawing);
  const count = (word: RegExp) => text.match(word)?.length ?? 0;
  const fills = new Set(
    [...text.matchAll(/([\d.]+) ([\d.]+) ([\d.]+) setrgbcolor/g)].map((m) =>
      hexFromRgb([1, 2, 3].map((k) => Number(m[k]) * 255)),
    ),
  );
  const told = ['Creator', 'Author', 'For', 'Title', 'CreationDate'].filter((key) => text.includes(`%%${key}:`));
  return {
    ...{ format: 'eps', width, height, unit: 'pt', ppi: null, hasAlpha: false, isInterlaced: false, profile: null },
    pixels: png && pixelsOfPng(png),
    paths: count(/^.*\b(eofill|fill|shfill)$/gm),
    fills: [...fills],
    fonts: count(/\b(findfont|selectfont|show)\b/g),
    pictures: count(/\b(image|imagemask|colorimage)\b/g),
    problems: told.map((key) => `tells its ${key}`),
  };
}

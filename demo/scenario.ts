import type { Rgb } from '../core/colour/hex';
import type { Raster } from '../core/raster/raster';
import { plainCapture, simulateCapture } from '../core/capture/simulateCapture';
import { encodeCaptureJpeg, layOnItsSide } from '../codecs/encodeCapture';
import { again, toJpeg, toPng } from './capture';
import { badgeSvg } from './marks/badge';
import { festivalSvg } from './marks/festival';
import { lockHouseSvg } from './marks/lockHouse';
import { lockSignsSvg } from './marks/lockSigns';
import { monogramSvg } from './marks/monogram';
import { signalFlagSvg } from './marks/signalFlag';
import { signAgain, signaturePath, signatureStrokes } from './marks/signatures';
import { wordmarkSvg } from './marks/wordmark';
import { compositeOn, renderSvg } from './render';
import { brickBridge, lockByNight, mistyTowpath, paintedHull, ruffledWater, snowyBank } from './grounds/grounds';

/** One mark of the scenario: the file as it arrives, and what is really in it. */
export interface DemoMark {
  readonly id: string;
  readonly name: string;
  readonly fileName: string;
  readonly mediaType: string;
  readonly bytes: Buffer;
  /** The mark as drawn: straight alpha, own colours, on the file's pixel grid. */
  readonly truth: Raster;
  readonly ground: Rgb | null;
}

const jpeg = 'image/jpeg';
const png = 'image/png';

async function badge(): Promise<DemoMark> {
  const truth = renderSvg(badgeSvg(820), 900, 900, '-40 -40 900 900');
  const ground: Rgb = [244, 239, 228];
  return {
    id: 'badge',
    name: 'Trust badge',
    fileName: 'trust-badge.jpg',
    mediaType: jpeg,
    bytes: await toJpeg(compositeOn(truth, ground), 78),
    truth,
    ground,
  };
}

async function wordmark(): Promise<DemoMark> {
  const truth = renderSvg(wordmarkSvg(396), 420, 130, '-12 -6 420 130');
  const ground: Rgb = [255, 255, 255];
  const bytes = await again(await toJpeg(compositeOn(truth, ground), 62), 55);
  return {
    id: 'wordmark',
    name: 'Harrowmere wordmark',
    fileName: 'harrowmere-wordmark.jpg',
    mediaType: jpeg,
    bytes,
    truth,
    ground,
  };
}

async function festival(): Promise<DemoMark> {
  const truth = renderSvg(festivalSvg(1000), 1000, 920, '0 40 1000 920');
  const ground: Rgb = [214, 229, 238];
  return {
    id: 'festival',
    name: 'Towpath Days',
    fileName: 'towpath-days.png',
    mediaType: png,
    bytes: await toPng(compositeOn(truth, ground), false),
    truth,
    ground,
  };
}

async function lockHouse(): Promise<DemoMark> {
  const truth = renderSvg(lockHouseSvg(1024), 1024, 1024);
  const uneven = (x: number, y: number): Rgb =>
    [232 - x / 260 - y / 400, 222 - x / 300 - y / 300, 202 - x / 220 - y / 420].map(Math.round) as unknown as Rgb;
  return {
    id: 'lock-house',
    name: 'Lock-house concept',
    fileName: 'lock-house-concept.png',
    mediaType: png,
    bytes: await toPng(compositeOn(truth, uneven), false),
    truth,
    ground: [230, 220, 200],
  };
}

async function monogram(): Promise<DemoMark> {
  const truth = renderSvg(monogramSvg(600), 600, 600);
  return {
    id: 'monogram',
    name: 'Monogram',
    fileName: 'monogram-white.png',
    mediaType: png,
    bytes: await toPng(truth, true),
    truth,
    ground: null,
  };
}

async function signalFlag(): Promise<DemoMark> {
  const truth = renderSvg(signalFlagSvg(800), 800, 800);
  const checker = (x: number, y: number): Rgb => (((x >> 4) + (y >> 4)) % 2 ? [255, 255, 255] : [204, 204, 204]);
  return {
    id: 'signal-flag',
    name: 'Signal flag',
    fileName: 'signal-flag.png',
    mediaType: png,
    bytes: await toPng(compositeOn(truth, checker), false),
    truth,
    ground: null,
  };
}

/** Files of the scenario that are drawings: what is in them is what they say. */
export const drawSheets = (): Pick<DemoMark, 'id' | 'name' | 'fileName' | 'mediaType' | 'bytes'>[] => [
  {
    id: 'lock-signs',
    name: 'Lock signs',
    fileName: 'lock-signs.svg',
    mediaType: 'image/svg+xml',
    bytes: Buffer.from(lockSignsSvg()),
  },
];

/**
 * Odile Farrant's five tries on one sheet, as a telephone wrote them down: lying on its side, with a place of capture.
 */
export async function drawFiveTries(scale = 1): Promise<DemoMark> {
  const [width, height] = [3264 * scale, 2448 * scale];
  const strokes = signatureStrokes(17);
  const places = [
    [330, 560, -7],
    [1830, 480, -9],
    [420, 1300, -6.5],
    [1790, 1240, -8],
    [980, 2090, -10],
  ];
  const d = places
    .map(([x, y, turn], k) => signaturePath(signAgain(strokes, k + 1), x, y, 1.02, turn, { width: 15, thinning: 0.62 }))
    .join('');
  const { picture, truth } = simulateCapture(
    renderSvg(`<path d="${d}" fill="#21409a" transform="scale(${scale})"/>`, width, height),
    {
      ...plainCapture,
      seed: 5,
      paper: [226, 227, 229],
      texture: 3,
      lines: 'ruled',
      lineColour: [168, 184, 204],
      lineSpacingPx: 118 * scale,
      lineWidthPx: 4 * scale,
      lineAngleDeg: -1.4,
      falloff: 0.42,
      lightAngleDeg: 205,
      lightColour: [1, 0.965, 0.9],
      blurPx: 1.2 * scale,
      noise: 4,
    },
  );
  const bytes = await layOnItsSide(await encodeCaptureJpeg(picture, 86, true));
  return {
    id: 'five-tries',
    name: 'Odile Farrant',
    fileName: 'odile-farrant-five-tries.jpg',
    mediaType: jpeg,
    bytes,
    truth,
    ground: null,
  };
}

/** Bram Tolliver's signature in faint pencil on textured cream paper, a shadow across it and a few specks beside. */
export async function drawPencil(): Promise<DemoMark> {
  const [width, height] = [1600, 1100];
  const d = signaturePath(signatureStrokes(41), 280, 640, 0.98, -4, { width: 9, thinning: 0.5 });
  const specks = [
    [210, 260, 2.4],
    [1390, 930, 3],
    [1240, 180, 2],
  ]
    .map(([x, y, r]) => `<circle cx="${x}" cy="${y}" r="${r}" fill="#6d6358"/>`)
    .join('');
  const pen = `<path d="${d}" fill="#85837f"/>`;
  const options = {
    ...plainCapture,
    seed: 9,
    paper: [243, 234, 212],
    texture: 6,
    falloff: 0.2,
    lightAngleDeg: 140,
    lightColour: [1, 0.97, 0.91],
    shadow: 0.28,
    shadowEdgePx: 34,
    blurPx: 0.9,
    noise: 3,
  } as const;
  const { picture } = simulateCapture(renderSvg(pen + specks, width, height), options);
  const { truth } = simulateCapture(renderSvg(pen, width, height), options);
  return {
    id: 'pencil',
    name: 'Bram Tolliver',
    fileName: 'bram-tolliver-pencil.jpg',
    mediaType: jpeg,
    bytes: await toJpeg(picture, 84),
    truth,
    ground: null,
  };
}

/** The logos drawn so far, in the order in which the collection shows them. */
export const drawLogos = (): Promise<DemoMark[]> =>
  Promise.all([badge(), wordmark(), festival(), lockHouse(), monogram(), signalFlag()]);

export const drawSignatures = (): Promise<DemoMark[]> => Promise.all([drawFiveTries(), drawPencil()]);

export interface DemoGround {
  readonly id: string;
  readonly name: string;
  readonly tone: 'light' | 'dark' | 'mid';
  readonly bytes: Buffer;
  readonly width: number;
  readonly height: number;
}

export async function drawGrounds(width = 1600, height = 1000): Promise<DemoGround[]> {
  const make = async (id: string, name: string, tone: DemoGround['tone'], raster: Raster): Promise<DemoGround> => ({
    id,
    name,
    tone,
    bytes: await toJpeg(raster, 90),
    width,
    height,
  });
  return Promise.all([
    make('misty-towpath', 'Misty towpath', 'light', mistyTowpath(width, height)),
    make('lock-by-night', 'Lock by night', 'dark', lockByNight(width, height)),
    make('brick-bridge', 'Brick bridge', 'mid', brickBridge(width, height)),
    make('ruffled-water', 'Ruffled water', 'mid', ruffledWater(width, height)),
    make('snow', 'Snow on the bank', 'light', snowyBank(width, height)),
    make('painted-hull', 'Painted hull', 'mid', paintedHull(width, height)),
  ]);
}

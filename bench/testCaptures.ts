import { type CaptureOptions, plainCapture, simulateCapture } from '../core/capture/simulateCapture';
import type { Rgb } from '../core/colour/hex';
import type { Raster } from '../core/raster/raster';
import { seededRandom } from '../core/seededRandom';
import { again, toJpeg, toPng } from '../demo/capture';
import { signaturePath, signatureStrokes } from '../demo/marks/signatures';
import { renderSvg } from '../demo/render';
import { decodePicture } from '../codecs/decodePicture';

/** A made-up photograph of signatures with its truth. */
export interface TestCapture {
  readonly id: string;
  readonly picture: Raster;
  readonly truth: Raster;
  readonly marks: readonly { x: number; y: number; angleDeg: number }[];
  readonly how: string;
}

type Random = () => number;
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)];
const between = (random: Random, lo: number, hi: number) => lo + (hi - lo) * random();

const pens = [
  { name: 'biro blue', ink: '#1f3a93', width: 9, density: 0.98 },
  { name: 'biro black', ink: '#22222a', width: 8, density: 0.98 },
  { name: 'red pen', ink: '#b3242b', width: 10, density: 0.98 },
  { name: 'marker', ink: '#15151a', width: 22, density: 1 },
  { name: 'pencil', ink: '#77777b', width: 8, density: 1 },
  { name: 'fine liner', ink: '#101014', width: 6, density: 1 },
];
const papers: readonly { name: string; colour: Rgb; texture: number }[] = [
  { name: 'white', colour: [250, 250, 248], texture: 1 },
  { name: 'cream', colour: [243, 234, 212], texture: 6 },
  { name: 'envelope', colour: [205, 178, 138], texture: 9 },
  { name: 'grey', colour: [226, 227, 229], texture: 3 },
];

/** One photograph from one seed. @param sizes widths to choose from */
export async function makeTestCapture(
  seed: number,
  sizes: readonly number[] = [600, 900, 1400, 2000],
): Promise<TestCapture> {
  const random = seededRandom(seed * 4241 + 91);
  for (let k = 0; k < 5; k++) random();
  const width = pick(random, sizes);
  const height = Math.round(width * between(random, 0.6, 0.8));
  const pen = pick(random, pens);
  const paper = pick(random, papers);
  const count = pick(random, [1, 1, 1, 2, 3, 5]);
  const columns = count > 3 ? 2 : 1;
  const rows = Math.ceil(count / columns);
  const scale = Math.min((width * 0.62) / columns / 1050, (height * 0.5) / rows / 420);
  const tilt = between(random, -14, 8);
  const marks: { x: number; y: number; angleDeg: number }[] = [];
  let d = '';
  for (let k = 0; k < count; k++) {
    const angleDeg = tilt + between(random, -2.5, 2.5);
    const x = (width * ((k % columns) + 0.5)) / columns - 480 * scale * Math.cos((angleDeg * Math.PI) / 180);
    const y = (height * (Math.floor(k / columns) + 0.62)) / rows - 480 * scale * Math.sin((angleDeg * Math.PI) / 180);
    marks.push({ x, y, angleDeg });
    d += signaturePath(signatureStrokes(seed * 17 + k), x, y, scale, angleDeg, {
      width: Math.max(2.8, pen.width * scale * 1.6),
      thinning: 0.55,
    });
  }
  const ink = renderSvg(
    `<path d="${d}" fill="${pen.ink}" fill-opacity="${pen.density}" fill-rule="nonzero"/>`,
    width,
    height,
  );
  const lines = pick(random, ['none', 'none', 'ruled', 'squared'] as const);
  const options: CaptureOptions = {
    ...plainCapture,
    seed,
    paper: paper.colour,
    texture: paper.texture,
    lines,
    lineColour: pick(random, [
      [150, 175, 205],
      [190, 190, 198],
      [205, 160, 165],
    ] as const),
    lineSpacingPx: width * between(random, 0.028, 0.06),
    lineWidthPx: Math.max(1, width * 0.0014),
    lineAngleDeg: tilt * 0.3 + between(random, -2, 2),
    falloff: between(random, 0, 0.5),
    lightAngleDeg: between(random, 0, 360),
    lightColour: pick(random, [
      [1, 1, 1],
      [1, 0.96, 0.88],
      [0.95, 0.98, 1],
    ] as const),
    shadow: random() < 0.3 ? between(random, 0.15, 0.4) : 0,
    shadowEdgePx: width * between(random, 0.004, 0.03),
    flash: random() < 0.2 ? between(random, 0.1, 0.35) : 0,
    blurPx: between(random, 0.3, 1.3),
    noise: pick(random, [0, 2, 4, 6]),
  };
  const { picture, truth } = simulateCapture(ink, options);
  const save = pick(random, ['png', 'jpeg90', 'jpeg75', 'jpeg50', 'twice']);
  const bytes =
    save === 'png'
      ? await toPng(picture, false)
      : save === 'twice'
        ? await again(await toJpeg(picture, 75), 65)
        : await toJpeg(picture, Number(save.slice(4)));
  const { raster } = await decodePicture(bytes, save === 'png' ? 'x.png' : 'x.jpg');
  return {
    id: `${seed}-${pen.name}`,
    picture: raster,
    truth,
    marks,
    how:
      `${paper.name}, ${lines}, ${save}, noise ${options.noise}, blur ` +
      `${options.blurPx.toFixed(1)}${options.shadow ? ', shadow' : ''}${options.flash ? ', flash' : ''}, ` +
      `${count} marks`,
  };
}

import { type CaptureOptions, plainCapture, simulateCapture } from '../core/capture/simulateCapture';
import type { Rgb } from '../core/colour/hex';
import { seededRandom } from '../core/seededRandom';
import type { PenPoint } from '../core/vector/penStroke';
import { toJpeg } from '../demo/capture';
import { signaturePath } from '../demo/marks/signatures';
import { renderSvg } from '../demo/render';
import { decodePicture } from '../codecs/decodePicture';
import { type Random, between, pick } from './brush';
import type { TestCapture } from './testCaptures';

const pens = [
  { name: 'blue', ink: '#2444a8', width: 8 },
  { name: 'black', ink: '#1d1d22', width: 8 },
  { name: 'red', ink: '#b0222c', width: 9 },
  { name: 'green', ink: '#1d6b45', width: 8 },
  { name: 'hairline', ink: '#18181c', width: 3.4 },
  { name: 'violet', ink: '#5b3a8e', width: 7 },
];

/**
 * Another hand than the demo's: cycloids of uneven reach with initials, detached dots, a flourish that runs under the
 * name and may be faint. About 1000 units long, baseline at y = 0.
 */
function otherHand(random: Random): PenPoint[][] {
  const strokes: PenPoint[][] = [];
  const tall = between(random, 60, 100);
  const lean = between(random, -0.15, 0.55);
  for (let letter = 0; letter < (random() < 0.5 ? 1 : 2); letter++) {
    const at = letter * 150;
    const high = between(random, 2, 3.1) * tall;
    const stem: PenPoint[] = [];
    for (let t = 0; t <= 1; t += 0.05) stem.push([at + 40 + lean * high * t, -high * t, 0.5 + 0.3 * t]);
    const bowl: PenPoint[] = [];
    for (let t = 0; t <= 1; t += 0.03)
      bowl.push([
        at + 40 + lean * high * (1 - t) + Math.sin(t * Math.PI * between(random, 0.95, 1.05)) * 110,
        -high * (1 - t * between(random, 0.5, 0.52)),
        0.7 - 0.3 * t,
      ]);
    strokes.push(stem, bowl);
  }
  const run: PenPoint[] = [];
  let x = 290;
  const letters = 5 + Math.floor(random() * 5);
  for (let k = 0; k < letters; k++) {
    const wide = between(random, 44, 80);
    const up = random() < 0.25 ? between(random, 1.7, 2.4) : between(random, 0.75, 1);
    const down = random() < 0.12 ? between(random, 0.7, 1.1) : 0;
    for (let t = 0; t < 1; t += 0.07) {
      const y =
        -tall * up * Math.max(0, Math.sin(t * Math.PI)) + tall * down * Math.max(0, Math.sin((t - 0.5) * 2 * Math.PI));
      run.push([x + wide * t - y * lean, y, 0.45 + 0.4 * Math.cos(t * 2 * Math.PI) ** 2]);
    }
    x += wide;
  }
  strokes.push(run);
  if (random() < 0.55) {
    const faint = random() < 0.5;
    const line: PenPoint[] = [];
    const [from, to, deep] = [between(random, 60, 300), x + between(random, 0, 160), between(random, 50, 90)];
    const rise = between(random, -26, 30);
    for (let t = 0; t <= 1; t += 0.04)
      line.push([from + (to - from) * t, deep - rise * t + 9 * Math.sin(t * 7), faint ? 0.05 + 0.1 * t : 0.6]);
    strokes.push(line);
  }
  for (let k = 0; k < Math.floor(random() * 3); k++) {
    const at = between(random, 330, x);
    strokes.push([
      [at, -tall * 1.7, 0.9],
      [at + 6, -tall * 1.73, 0.9],
      [at + 10, -tall * 1.7, 0.7],
    ]);
  }
  return strokes;
}

/** Sheets in another hand: several pens on one sheet, thin pens in small pictures, ruled lines along the writing. */
export async function makeHardCapture(
  seed: number,
  sizes: readonly number[] = [600, 700, 800, 1400],
): Promise<TestCapture> {
  const random = seededRandom(seed * 5557 + 71);
  for (let k = 0; k < 5; k++) random();
  const width = pick(random, sizes);
  const height = Math.round(width * between(random, 0.6, 0.85));
  const count = pick(random, [1, 2, 2, 3, 4]);
  const columns = count > 3 ? 2 : 1;
  const rows = Math.ceil(count / columns);
  const scale = Math.min((width * 0.64) / columns / 1050, (height * 0.5) / rows / 420);
  const tilt = between(random, -9, 7);
  const isMixed = random() < 0.5;
  const one = pick(random, pens);
  const marks: { x: number; y: number; angleDeg: number }[] = [];
  let body = '';
  const names = new Set<string>();
  for (let k = 0; k < count; k++) {
    const pen = isMixed ? pick(random, pens) : one;
    names.add(pen.name);
    const angleDeg = tilt + between(random, -2.5, 2.5);
    const a = (angleDeg * Math.PI) / 180;
    const x = (width * ((k % columns) + 0.5)) / columns - 480 * scale * Math.cos(a);
    const y = (height * (Math.floor(k / columns) + 0.62)) / rows - 480 * scale * Math.sin(a);
    marks.push({ x, y, angleDeg });
    const least = pen.name === 'hairline' ? 1.3 : 2.4;
    const d = signaturePath(otherHand(random), x, y, scale, angleDeg, {
      width: Math.max(least, pen.width * scale * 1.6),
      thinning: 0.5,
    });
    body += `<path d="${d}" fill="${pen.ink}" fill-opacity="0.98" fill-rule="nonzero"/>`;
  }
  const lines = pick(random, ['none', 'none', 'ruled', 'ruled', 'squared'] as const);
  const options: CaptureOptions = {
    ...plainCapture,
    seed,
    paper: pick(random, [
      [251, 250, 247],
      [240, 232, 214],
      [229, 230, 232],
    ] as const) as Rgb,
    texture: pick(random, [1, 4, 8]),
    lines,
    lineColour: pick(random, [
      [140, 168, 205],
      [185, 185, 196],
    ] as const),
    lineSpacingPx: width * between(random, 0.03, 0.06),
    lineWidthPx: Math.max(1, width * 0.0016),
    lineAngleDeg: tilt,
    falloff: between(random, 0, 0.45),
    lightAngleDeg: between(random, 0, 360),
    shadow: random() < 0.3 ? between(random, 0.12, 0.35) : 0,
    shadowEdgePx: width * between(random, 0.006, 0.03),
    blurPx: between(random, 0.4, 1.1),
    noise: pick(random, [1, 3, 5]),
  };
  const { picture, truth } = simulateCapture(renderSvg(body, width, height), options);
  const quality = pick(random, [60, 60, 80, 92]);
  const { raster } = await decodePicture(await toJpeg(picture, quality), 'x.jpg');
  return {
    id: `${seed}-${[...names].join('+')}`,
    picture: raster,
    truth,
    marks,
    how: `${lines}, jpeg ${quality}, noise ${options.noise}, blur ${options.blurPx.toFixed(1)}, ${count} marks`,
  };
}

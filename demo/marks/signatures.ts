import type { PenPoint } from '../../core/vector/penStroke';
import { penData } from '../pathData';
import { seededRandom } from '../../core/seededRandom';

const between = (random: () => number, lo: number, hi: number) => lo + (hi - lo) * random();

/**
 * Pen strokes of a made-up signature, about 1000 units long with its baseline at y = 0. Each a list of points with
 * pressure.
 */
export function signatureStrokes(seed: number): PenPoint[][] {
  const random = seededRandom(seed * 613 + 29);
  for (let k = 0; k < 4; k++) random();
  const strokes: PenPoint[][] = [];
  const height = between(random, 70, 110);
  const slant = between(random, 0.1, 0.5);
  // The first letter, large, with a loop.
  const cap: PenPoint[] = [];
  const capTall = between(random, 210, 320);
  const turns = between(random, 1.1, 1.9);
  for (let t = 0; t <= 1; t += 0.02) {
    const a = -Math.PI * 0.6 + t * turns * 2 * Math.PI;
    const r = 1 - 0.45 * t;
    const y = -capTall * 0.45 + Math.sin(a) * capTall * 0.48 * r;
    cap.push([
      60 + Math.cos(a) * 70 * r + t * 90 - y * slant * 0.6,
      y,
      0.55 + 0.4 * Math.sin(a) * 0.5 + 0.15 * random(),
    ]);
  }
  strokes.push(cap);
  // The run of small letters: arches and loops that tire towards the end.
  const run: PenPoint[] = [];
  const letters = Math.round(between(random, 5, 9));
  let x = 190;
  for (let k = 0; k < letters; k++) {
    const wide = between(random, 46, 84);
    const kind = random();
    const tall =
      (kind < 0.2 ? between(random, 1.9, 2.7) : between(random, 0.7, 1.05)) * height * (1 - 0.35 * (k / letters));
    const dips = kind > 0.86 ? between(random, 0.6, 1.2) * height : between(random, -4, 8);
    const loops = kind < 0.45;
    for (let t = 0; t < 1; t += 0.06) {
      const a = t * 2 * Math.PI;
      const y = -tall * (0.5 - 0.5 * Math.cos(a)) + dips * Math.max(0, t - 0.6) * 2.2 * Math.sin((t - 0.6) * 4);
      run.push([
        x + wide * t + (loops ? Math.sin(a) * wide * 0.42 : 0) - y * slant,
        y,
        0.5 + 0.35 * Math.sin(a + 1) + 0.1 * random(),
      ]);
    }
    x += wide;
  }
  const [tail, rise] = [between(random, 80, 260), between(random, 0, 30)];
  for (let t = 0; t <= 1; t += 0.05) run.push([x + tail * t, -20 * Math.sin(t * 5) - t * rise, 0.6 - 0.45 * t]);
  strokes.push(run);
  if (random() < 0.6) {
    const under: PenPoint[] = [];
    const [from, to, deep] = [between(random, 40, 240), x + between(random, -40, 140), between(random, 50, 95)];
    for (let t = 0; t <= 1; t += 0.04)
      under.push([from + (to - from) * t, deep + 22 * Math.sin(t * 4) - 18 * t, 0.3 + 0.5 * Math.sin(t * 3)]);
    strokes.push(under);
  }
  if (random() < 0.7) {
    const at = between(random, 330, Math.max(340, x - 60));
    strokes.push([
      [at, -height * 1.55, 0.7],
      [at + 5, -height * 1.57, 0.7],
      [at + 8, -height * 1.54, 0.6],
    ]);
  }
  return strokes;
}

export interface PenLook {
  readonly width: number;
  readonly thinning: number;
}

/** The same hand once more: the strokes of a signature, each a little otherwise. */
export function signAgain(strokes: readonly PenPoint[][], seed: number): PenPoint[][] {
  const random = seededRandom(seed * 77 + 5);
  const [wide, tall, slant] = [between(random, 0.94, 1.05), between(random, 0.9, 1.08), between(random, -0.07, 0.07)];
  const waves = Array.from({ length: 3 }, () => ({
    at: between(random, 90, 420),
    phase: between(random, 0, 6.3),
    dx: between(random, 2, 9),
    dy: between(random, 2, 8),
  }));
  return strokes.map((stroke) =>
    stroke.map(([x, y, p]): PenPoint => {
      const dx = waves.reduce((s, w) => s + w.dx * Math.sin(x / w.at + w.phase), 0);
      const dy = waves.reduce((s, w) => s + w.dy * Math.cos(x / w.at + 2 * w.phase), 0);
      return [
        x * wide + y * slant + dx,
        y * tall + dy,
        Math.min(1, Math.max(0.05, p + 0.08 * Math.sin(x / 70 + waves[0].phase))),
      ];
    }),
  );
}

/** Path data of a signature at a place: `scale` px a unit, turned clockwise about the start of its baseline. */
export function signaturePath(
  strokes: readonly PenPoint[][],
  x: number,
  y: number,
  scale: number,
  angleDeg: number,
  pen: PenLook,
): string {
  const [cos, sin] = [Math.cos((angleDeg * Math.PI) / 180) * scale, Math.sin((angleDeg * Math.PI) / 180) * scale];
  return strokes
    .map((stroke) =>
      penData(
        stroke.map(([px, py, p]): PenPoint => [x + px * cos - py * sin, y + px * sin + py * cos, p]),
        { ...pen, smoothing: 0.5 },
      ),
    )
    .join('');
}

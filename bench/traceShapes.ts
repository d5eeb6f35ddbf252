import svgpath from 'svgpath';
import { loadTypeface } from '../codecs/loadTypeface';
import { type Path, PathBuilder, joinPaths, transformPath } from '../core/vector/path';
import { type PenPoint } from '../core/vector/penStroke';
import { seededRandom } from '../core/seededRandom';
import { drawnPath } from '../core/vector/drawnPath';
import { setType } from '../core/type/setType';
import { typefaces } from '../core/type/typefaces';

/** A shape whose outline is known. */
export interface KnownShape {
  readonly name: string;
  readonly family: 'shape' | 'text' | 'script';
  readonly path: Path;
  readonly width: number;
  readonly height: number;
}

export function pathOf(d: string): Path {
  const out = new PathBuilder();
  let [sx, sy] = [0, 0];
  let [x, y] = [0, 0];
  svgpath(d)
    .abs()
    .unshort()
    .unarc()
    .iterate((segment) => {
      const [verb, ...n] = segment as unknown as [string, ...number[]];
      if (verb === 'M') {
        out.moveTo(n[0], n[1]);
        [sx, sy] = n;
      } else if (verb === 'C') out.curveTo(n[0], n[1], n[2], n[3], n[4], n[5]);
      else if (verb === 'Q') out.quadTo(n[0], n[1], n[2], n[3]);
      else if (verb === 'H') out.lineTo(n[0], y);
      else if (verb === 'V') out.lineTo(x, n[0]);
      else if (verb === 'L') out.lineTo(n[0], n[1]);
      else out.close();
      if (verb === 'Z') [x, y] = [sx, sy];
      else if (verb === 'H') x = n[0];
      else if (verb === 'V') y = n[0];
      else [x, y] = n.slice(-2);
    });
  return out.done();
}

const f = (v: number) => v.toFixed(3);
const polygon = (points: readonly (readonly [number, number])[]) =>
  `M${points.map(([x, y]) => `${f(x)} ${f(y)}`).join('L')}Z`;
const circle = (x: number, y: number, r: number, sweep = 1) =>
  `M${f(x - r)} ${f(y)}A${f(r)} ${f(r)} 0 1 ${sweep} ${f(x + r)} ${f(y)}A${f(r)} ` +
  `${f(r)} 0 1 ${sweep} ${f(x - r)} ${f(y)}Z`;
const around = (n: number, r: (k: number) => number, turn: number, c = 500) =>
  Array.from({ length: n }, (_, k): [number, number] => {
    const a = turn + (2 * Math.PI * k) / n;
    return [c + r(k) * Math.cos(a), c + r(k) * Math.sin(a)];
  });

/** Icons and geometric shapes at 1000 px, turned and sized by a seed. */
export function knownShapes(seed: number): KnownShape[] {
  const random = seededRandom(seed);
  const between = (a: number, b: number) => a + (b - a) * random();
  const t = () => between(0, 6.28);
  const rounded = (w: number, h: number, r: number) =>
    `M${f(-w / 2 + r)} ${f(-h / 2)}H${f(w / 2 - r)}A${f(r)} ${f(r)} 0 0 1 ${f(w / 2)} ` +
    `${f(-h / 2 + r)}V${f(h / 2 - r)}` +
    `A${f(r)} ${f(r)} 0 0 1 ${f(w / 2 - r)} ${f(h / 2)}H${f(-w / 2 + r)}A${f(r)} ${f(r)} ` +
    `0 0 1 ${f(-w / 2)} ${f(h / 2 - r)}` +
    `V${f(-h / 2 + r)}A${f(r)} ${f(r)} 0 0 1 ${f(-w / 2 + r)} ${f(-h / 2)}Z`;
  const turned = (d: string) => {
    const [a, s] = [t(), between(0.8, 1.1)];
    const [cos, sin] = [Math.cos(a) * s, Math.sin(a) * s];
    return transformPath(pathOf(d), [cos, sin, -sin, cos, 500 + between(-20, 20), 500 + between(-20, 20)]);
  };
  const leaf = 'M0 -330C190 -250 260 60 0 340C-260 60 -190 -250 0 -330Z';
  const heart =
    'M0 300C-420 20 -330 -290 -130 -290C-60 -290 -20 -250 0 -190C20 -250 60 -290 130 -290C330 -290 420 20 0 300Z';
  const drop = 'M0 -360C60 -220 230 -80 230 110A230 230 0 0 1 -230 110C-230 -80 -60 -220 0 -360Z';
  const arrow = 'M-350 -70L80 -70L80 -210L360 0L80 210L80 70L-350 70Z';
  const moon = 'M120 -330A340 340 0 1 0 120 330A260 260 0 1 1 120 -330Z';
  const bolt = 'M60 -360L-200 40L-30 40L-90 360L210 -80L30 -80L110 -360Z';
  const shield = 'M-260 -300Q0 -360 260 -300L260 20Q230 250 0 370Q-230 250 -260 20Z';
  const wave =
    'M-380 -40C-250 -180 -130 -180 0 -40C130 100 250 100 380 -40L380 120C250 260 130 260 ' +
    '0 120C-130 -20 -250 -20 -380 120Z';
  const flat: [string, Path][] = [
    ['disc', pathOf(circle(500 + between(-3, 3), 500, between(60, 420)))],
    ['ring', pathOf(circle(500, 500, between(250, 400)) + circle(510, 495, between(80, 220), 0))],
    ['star', pathOf(polygon(around(10, (k) => (k % 2 ? between(150, 190) : 400), t())))],
    ['hexagon', pathOf(polygon(around(6, () => between(320, 420), t())))],
    ['gear', pathOf(polygon(around(48, (k) => (k % 4 < 2 ? 400 : 330), t())) + circle(500, 500, 120, 0))],
    ['rounded box', turned(rounded(between(400, 640), between(300, 520), between(20, 110)))],
    ['pill', turned(rounded(620, 180, 90))],
    ['leaf', turned(leaf)],
    ['heart', turned(heart)],
    ['drop', turned(drop)],
    ['arrow', turned(arrow)],
    ['moon', turned(moon)],
    ['bolt', turned(bolt)],
    ['shield', turned(shield)],
    ['wave', turned(wave)],
    [
      'small parts',
      joinPaths(
        Array.from({ length: 40 }, (_, k) => {
          const [x, y] = [80 + (k % 8) * 118, 120 + Math.floor(k / 8) * 180];
          const r = between(8, 40);
          return pathOf(
            k % 2
              ? circle(x, y, r)
              : polygon(around(3 + (k % 5), () => r, t(), 0).map(([a, b]) => [a + x, b + y] as [number, number])),
          );
        }),
      ),
    ],
  ];
  return flat.map(([name, path]) => ({ name, family: 'shape', path, width: 1000, height: 1000 }));
}

/** A line of text in a shipped typeface, and a signature by pen. */
export function knownTexts(seed: number): KnownShape[] {
  const random = seededRandom(seed);
  const words = ['Waterside', 'Quay 27 & Co', 'Brightling', 'Sage Field', 'Kjeller'];
  return typefaces.map(({ id, file }, k) => {
    const sizePx = 60 + Math.round(random() * 120);
    const path = setType([words[(k + seed) % words.length]], loadTypeface(file), {
      sizePx,
      spacing: 0,
      lineHeight: 1.2,
      align: 'left',
    });
    return {
      name: `${id} ${sizePx}`,
      family: isScript(id) ? 'script' : 'text',
      path: transformPath(path, [1, 0, 0, 1, 40.3, 200.6]),
      width: 1100,
      height: 320,
    };
  });
}

const isScript = (id: string) => !/hanken|bricolage|mono|sans|serif/i.test(id);

export function knownSignatures(seed: number): KnownShape[] {
  const random = seededRandom(seed);
  const strokes = Array.from({ length: 2 }, (_, s) => {
    const points: PenPoint[] = [];
    const [phase, pace] = [random() * 6, 0.5 + random() * 0.4];
    for (let k = 0; k < 120; k++) {
      const u = k / 120;
      points.push([
        60 + 700 * u + 40 * Math.sin(pace * k + phase),
        160 + s * 60 + 70 * Math.sin(pace * 0.9 * k + phase * 2) * (1 - u * 0.6),
        0.45 + 0.3 * Math.sin(k / 9 + phase),
      ]);
    }
    return points;
  });
  return [
    {
      name: `pen ${seed}`,
      family: 'script',
      path: drawnPath(strokes, { width: 9, thinning: 0.6, smoothing: 0.5 }),
      width: 860,
      height: 330,
    },
  ];
}

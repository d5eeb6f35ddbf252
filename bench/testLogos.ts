import type { Rgb } from '../core/colour/hex';
import type { Raster } from '../core/raster/raster';
import { decodePicture } from '../codecs/decodePicture';
import sharp from 'sharp';
import { again, toJpeg, toPng } from '../demo/capture';
import { compositeOn, renderSvg } from '../demo/render';
import { seededRandom } from '../core/seededRandom';
import { type FontName, textOnCircle, textPath, textWidth } from '../demo/text';
import { type Brush, type Drawing, type Random, between, fitText, pick, words } from './brush';
import { hardDrawings } from './hardDrawings';
import { innerDrawings } from './innerDrawings';
import { keptDrawings } from './keptDrawings';

/** A made-up logo as it arrives, with its truth on the same pixel grid. */
export interface TestLogo {
  readonly id: string;
  readonly picture: Raster;
  readonly truth: Raster;
  readonly ground: Rgb;
  /** Where enclosed ground is truly open or truly solid, one point each. */
  readonly capture: string;
}

const BADGE_TEXT = { name: 'sans', size: 84, spacing: 14 } as const;
const BADGE_CIRCLE = { cx: 500, cy: 500, radius: 300, angleRad: 0 };
const fonts: readonly FontName[] = ['grotesque', 'sans', 'thin', 'script'];
const grounds: readonly Rgb[] = [
  [255, 255, 255],
  [255, 255, 255],
  [255, 255, 255],
  [244, 239, 228],
  [250, 250, 250],
  [222, 209, 184],
  [214, 229, 238],
  [24, 28, 36],
  [0, 0, 0],
  [52, 92, 140],
];
const inks = ['#1f5a45', '#b5322b', '#1c1b1d', '#274690', '#c7762b', '#5b3a6e', '#0f766e', '#8a1c4a'];
const lightInks = ['#f6c445', '#e9ddc4', '#9fd3c7', '#ffffff', '#ff9f6b', '#c8d8ff'];

/**
 * Each draws in 1000 units across. `ground` is the ground's colour, for details of that colour that belong to the mark.
 */
const drawings: Record<string, (brush: Brush) => Drawing> = {
  wordmark({ random, a, b }) {
    const text = pick(random, words);
    const font = pick(random, fonts);
    const size = fitText(text, font, 900, 260);
    const x = (1000 - textWidth(text, font, size)) / 2;
    return {
      width: 1000,
      height: 420,
      body:
        `<path d="${textPath(text, font, size, x, 250)}" fill="${a}"/><rect x="120" y="320" ` +
        `width="760" height="${between(random, 3, 16)}" fill="${b}"/>`,
    };
  },
  ringBadge({ random, a, b }) {
    const r = between(random, 90, 170);
    return {
      width: 1000,
      height: 1000,
      body:
        `<circle cx="500" cy="500" r="440" fill="none" stroke="${a}" ` +
        `stroke-width="${between(random, 10, 44)}"/><path ` +
        `d="${textOnCircle(pick(random, words).toUpperCase(), BADGE_TEXT, BADGE_CIRCLE)}" ` +
        `fill="${a}"/><circle cx="500" cy="540" r="${r}" fill="${b}"/><path d="M500 ` +
        `${540 - r}L${500 + r * 0.5} 540L500 ${540 + r * 0.4}L${500 - r * 0.5} 540Z" fill="${a}"/>`,
    };
  },
  plate({ random, a, ground }) {
    const text = pick(random, words);
    const size = fitText(text, 'grotesque', 760, 200);
    const x = (1000 - textWidth(text, 'grotesque', size)) / 2;
    return {
      width: 1000,
      height: 500,
      body:
        `<rect x="60" y="60" width="880" height="380" rx="${between(random, 0, 120)}" ` +
        `fill="${a}"/><path d="${textPath(text, 'grotesque', size, x, 285)}" fill="${ground}"/>`,
    };
  },
  creature({ random, a, b, ground }) {
    const e = between(random, 12, 30);
    return {
      width: 1000,
      height: 800,
      body:
        '<path d="M200 560C180 300 420 140 620 220C760 270 830 400 800 560C780 690 640 700 ' +
        `500 690C360 700 220 700 200 560Z" fill="${a}"/><circle cx="640" cy="360" ` +
        `r="${e * 1.9}" fill="${ground}"/><circle cx="646" cy="364" r="${e}" ` +
        `fill="#1c1b1d"/><path d="M320 560Q460 620 600 560Q460 ${between(random, 640, 690)} ` +
        `320 560Z" fill="${ground}"/><path d="M800 420L930 400L810 480Z" fill="${b}"/>`,
    };
  },
  lineArt({ random, a }) {
    const w = between(random, 4, 18);
    return {
      width: 1000,
      height: 800,
      body:
        `<g fill="none" stroke="${a}" stroke-width="${w.toFixed(1)}" ` +
        'stroke-linejoin="round"><path d="M120 680L120 360L500 120L880 360L880 680Z"/><path ' +
        'd="M300 680L300 460L460 460L460 680"/><rect x="580" y="440" width="180" ' +
        'height="150"/><path d="M670 440V590M580 515H760"/><circle cx="500" cy="290" r="56"/></g>',
    };
  },
  sunrise({ random, a, b }) {
    return {
      width: 1000,
      height: 800,
      body:
        '<defs><linearGradient id="g" x1="0" y1="0" x2="0" y2="1"><stop offset="0" ' +
        `stop-color="${b}"/><stop offset="1" stop-color="${a}"/></linearGradient></defs><path ` +
        'd="M180 520A320 320 0 0 1 820 520Z" ' +
        'fill="url(#g)"/>' +
        [580, 630, 672]
          .map(
            (y, k) =>
              `<rect x="${200 + k * 60}" y="${y}" width="${600 - k * 120}" height="${22 - k * 6}" fill="${a}"/>`,
          )
          .join('') +
        '<circle ' +
        `cx="500" cy="${between(random, 90, 130)}" r="24" fill="${b}"/>`,
    };
  },
  shadowed({ random, a, b }) {
    const blur = between(random, 8, 22);
    return {
      width: 1000,
      height: 700,
      body:
        '<defs><filter id="s" x="-30%" y="-30%" width="160%" height="160%"><feGaussianBlur ' +
        `stdDeviation="${blur}"/></filter></defs><rect x="250" y="170" width="500" ` +
        `height="330" rx="60" fill="#000" fill-opacity="${between(random, 0.25, 0.5)}" ` +
        `filter="url(#s)" transform="translate(${between(random, 6, 24)} ` +
        `${between(random, 12, 30)})"/><rect x="250" y="170" width="500" height="330" rx="60" ` +
        `fill="${a}"/><circle cx="500" cy="335" r="90" fill="${b}"/>`,
    };
  },
  glowing({ random, a, b }) {
    return {
      width: 1000,
      height: 800,
      body:
        '<defs><filter id="s" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur ' +
        `stdDeviation="${between(random, 16, 30)}"/></filter></defs><path d="M500 150L590 ` +
        `380L830 390L640 540L705 770L500 640L295 770L360 540L170 390L410 380Z" fill="${b}" ` +
        'fill-opacity="0.8" filter="url(#s)" transform="translate(60 40) scale(.88)"/><path ' +
        'd="M500 150L590 380L830 390L640 540L705 770L500 640L295 770L360 540L170 390L410 ' +
        `380Z" fill="${a}" transform="translate(120 90) scale(.76)"/>`,
    };
  },
  paleParts({ random, a, ground }) {
    const isDark = parseInt(ground.slice(1, 3), 16) < 128;
    const pale = isDark ? '#4a4f58' : pick(random, ['#dcdcdc', '#d3dbe0', '#e3d9c6']);
    return {
      width: 1000,
      height: 700,
      body:
        `<rect x="120" y="140" width="360" height="420" fill="${a}"/><rect x="520" y="140" ` +
        `width="360" height="200" fill="${pale}"/><circle cx="700" cy="460" r="100" ` +
        `fill="${pale}"/><rect x="180" y="240" width="240" height="26" fill="${pale}"/>`,
    };
  },
  fineText({ random, a, b }) {
    const text = `${pick(random, words)} ${pick(random, words)} since 19${Math.floor(between(random, 10, 90))}`;
    const size = fitText(text, 'thin', 880, 70);
    return {
      width: 1000,
      height: 400,
      body:
        `<path d="${textPath(pick(random, words), 'grotesque', 130, 80, 190)}" ` +
        `fill="${b}"/><path d="${textPath(text, 'thin', size, 70, 290)}" fill="${a}"/><path ` +
        `d="M70 330H930" stroke="${a}" stroke-width="2"/>`,
    };
  },
  shadowedText({ random, a }) {
    const text = pick(random, words);
    const size = fitText(text, 'grotesque', 800, 230);
    const d = textPath(text, 'grotesque', size, (1000 - textWidth(text, 'grotesque', size)) / 2, 260);
    return {
      width: 1000,
      height: 420,
      body:
        '<defs><filter id="s" x="-20%" y="-40%" width="140%" height="200%"><feGaussianBlur ' +
        `stdDeviation="${between(random, 5, 12)}"/></filter></defs><path d="${d}" fill="#000" ` +
        `fill-opacity="${between(random, 0.3, 0.6)}" filter="url(#s)" ` +
        `transform="translate(${between(random, 4, 12)} ${between(random, 8, 18)})"/><path ` +
        `d="${d}" fill="${a}"/>`,
    };
  },
  glowInRing({ random, a, b }) {
    return {
      width: 1000,
      height: 1000,
      body:
        '<defs><filter id="s" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur ' +
        `stdDeviation="${between(random, 18, 34)}"/></filter></defs><circle cx="500" cy="500" ` +
        `r="400" fill="none" stroke="${a}" stroke-width="${between(random, 24, 60)}"/><circle ` +
        `cx="500" cy="500" r="150" fill="${b}" fill-opacity="0.7" filter="url(#s)"/><path ` +
        `d="M500 360L560 470L680 500L560 530L500 640L440 530L320 500L440 470Z" fill="${a}"/>`,
    };
  },
  raggedPale({ random, a, ground }) {
    const isDark = parseInt(ground.slice(1, 3), 16) < 128;
    const pale = isDark ? '#3d434d' : pick(random, ['#d9d9d4', '#cfd8dc', '#e0d6c2']);
    const points = Array.from({ length: 46 }, (_, k) => {
      const t = (k / 46) * 2 * Math.PI;
      const r = between(random, 250, 350);
      return `${(500 + r * Math.cos(t)).toFixed(1)} ${(420 + r * 0.8 * Math.sin(t)).toFixed(1)}`;
    });
    return {
      width: 1000,
      height: 840,
      body:
        `<path d="M${points.join('L')}Z" fill="${pale}"/><path ` +
        `d="${textPath('Fen', 'grotesque', 240, 330, 500)}" fill="${a}"/>`,
    };
  },
  gradientText({ random, a, b }) {
    const text = pick(random, words);
    const size = fitText(text, 'grotesque', 900, 240);
    const x = (1000 - textWidth(text, 'grotesque', size)) / 2;
    return {
      width: 1000,
      height: 420,
      body:
        '<defs><linearGradient id="g" x1="0" y1="0" x2="1" y2="0.3"><stop offset="0" ' +
        `stop-color="${a}"/><stop offset="1" stop-color="${b}"/></linearGradient></defs><path ` +
        `d="${textPath(text, 'grotesque', size, x, 250)}" fill="url(#g)"/><path ` +
        `d="${textPath('estd. by the water', 'sans', 44, 300, 340, 4)}" fill="${a}"/>`,
    };
  },
  shield({ random, a, b, ground }) {
    const w = between(random, 14, 40);
    return {
      width: 1000,
      height: 1000,
      body:
        '<path d="M180 140H820V520C820 720 640 840 500 900C360 840 180 720 180 520Z" ' +
        `fill="${a}"/><path d="M240 200H760V520C760 680 620 780 500 836C380 780 240 680 240 ` +
        `520Z" fill="none" stroke="${ground}" stroke-width="${w}"/><circle cx="500" cy="430" ` +
        `r="120" fill="${b}"/><path d="M500 330L530 410H610L545 460L570 540L500 490L430 ` +
        `540L455 460L390 410H470Z" fill="${ground}"/><path ` +
        `d="${textPath('1884', 'grotesque', 110, 500 - textWidth('1884', 'grotesque', 110) / 2, 690)}" ` +
        `fill="${ground}"/>`,
    };
  },
  stack({ random, a, b }) {
    const t1 = pick(random, words);
    const t2 = pick(random, words).toLowerCase();
    const s1 = fitText(t1, 'grotesque', 620, 150);
    return {
      width: 1000,
      height: 460,
      body:
        `<circle cx="170" cy="220" r="110" fill="none" stroke="${b}" ` +
        `stroke-width="38"/><circle cx="170" cy="220" r="40" fill="${a}"/><path ` +
        `d="${textPath(t1, 'grotesque', s1, 330, 240)}" fill="${a}"/><path ` +
        `d="${textPath(t2, 'sans', fitText(t2, 'sans', 600, 90), 334, 350)}" fill="${b}"/>`,
    };
  },
};
/**
 * Every kind of mark; those whose inner parts are the whole question; the hard cases; and the same in another style,
 * never tuned on.
 */
export const drawingSets = { all: drawings, inner: innerDrawings, hard: hardDrawings, kept: keptDrawings };

type Capture = (picture: Raster, random: Random) => Promise<Buffer>;
const captures: Record<string, Capture> = {
  png: (p) => toPng(p, false),
  jpeg95: (p) => toJpeg(p, 95),
  jpeg80: (p) => toJpeg(p, 80),
  jpeg60: (p) => toJpeg(p, 60),
  jpeg35: (p) => toJpeg(p, 35),
  twice: async (p) => again(await toJpeg(p, 70), 60),
};

/** One logo, drawn, set on a ground and captured, all from one seed. */
export async function makeTestLogo(
  seed: number,
  set: keyof typeof drawingSets = 'all',
  sizes: readonly number[] = [300, 420, 640, 900, 1300],
): Promise<TestLogo> {
  const kinds = Object.entries(drawingSets[set]);
  const random = seededRandom(seed * 7919 + 13);
  for (let k = 0; k < 5; k++) random();
  const [kind, draw] = kinds[seed % kinds.length];
  // A dark shadow on a dark ground cannot be seen, let alone kept.
  const needsLight = /shadow|columns|slight|billboard|smallSign|[gG]low|halo/.test(kind);
  const ground = pick(random, needsLight ? grounds.filter((g) => g[1] > 180) : grounds);
  const isDark = ground[0] + ground[1] + ground[2] < 330;
  const inkList = isDark ? lightInks : inks;
  const a = pick(random, inkList);
  const b = pick(
    random,
    inkList.filter((c) => c !== a),
  );
  const groundHex = `#${ground.map((v) => v.toString(16).padStart(2, '0')).join('')}`;
  const drawing = draw({ random, a, b, ground: groundHex });
  const width = pick(random, sizes);
  const isUpscaled = random() < 0.15;
  const height = Math.round((width * drawing.height) / drawing.width);
  let truth = renderSvg(drawing.body, width, height, `0 0 ${drawing.width} ${drawing.height}`);
  const isUneven = random() < 0.15;
  const drift = between(random, -14, 14);
  const under = (w: number, h: number) =>
    isUneven
      ? (x: number, y: number): Rgb =>
          ground.map((v) =>
            Math.min(255, Math.max(0, Math.round(v + drift * (((x / w - 0.4) ** 2 + (y / h - 0.5) ** 2) * 2 - 0.3)))),
          ) as unknown as Rgb
      : ground;
  let seen = compositeOn(truth, under(width, height));
  if (isUpscaled) {
    // Enlarged by somebody on the way: the truth is the enlarged truth.
    truth = await enlarge(truth);
    seen = compositeOn(truth, under(truth.width, truth.height));
  }
  const capture = pick(random, Object.keys(captures));
  const bytes = await captures[capture](seen, random);
  const { raster } = await decodePicture(bytes, capture === 'png' ? 'x.png' : 'x.jpg');
  return {
    id: `${seed}-${kind}`,
    picture: raster,
    truth,
    ground,
    capture: `${capture}${isUpscaled ? ', enlarged' : ''}${isUneven ? ', uneven' : ''}`,
  };
}

async function enlarge(r: Raster): Promise<Raster> {
  const { data, info } = await sharp(r.data, { raw: { width: r.width, height: r.height, channels: 4 } })
    .resize(r.width * 2, r.height * 2, { kernel: 'cubic' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data) };
}

import { textOnCircle, textPath, textWidth } from '../demo/text';
import { type Brush, type Drawing, between, fitText, pick, words } from './brush';

const polar = (cx: number, cy: number, r: number, t: number) =>
  `${(cx + r * Math.cos(t)).toFixed(1)} ${(cy + r * Math.sin(t)).toFixed(1)}`;
const around = (count: number, cx: number, cy: number, r: (k: number) => number, from = 0) =>
  `M${Array.from({ length: count }, (_, k) => polar(cx, cy, r(k), from + (k / count) * 2 * Math.PI)).join('L')}Z`;
const middle = (text: string, size: number, y: number) =>
  textPath(text, 'grotesque', size, 500 - textWidth(text, 'grotesque', size) / 2, y);
const times = (count: number, draw: (k: number) => string) => Array.from({ length: count }, (_, k) => draw(k)).join('');
const digits = (random: () => number) => String(Math.floor(between(random, 10, 99)));

/**
 * Marks whose inner parts are the whole question: in `open` ones everything enclosed is the ground showing through, as
 * in letters, line drawings, rings, handles and lattices; in `solid` ones it was painted on a filled shape. Each draws
 * in 1000 units across.
 */
const open: Record<string, (brush: Brush) => Drawing> = {
  key({ random, a }) {
    const r = between(random, 110, 170);
    const w = between(random, 36, 90);
    return {
      width: 1000,
      height: 500,
      body:
        `<circle cx="230" cy="250" r="${r}" fill="none" stroke="${a}" ` +
        `stroke-width="${w}"/><path d="M${230 + r} ` +
        `${250 - w / 2}H900V${250 + 110}H830V${250 + w / 2}H770V${250 + 90}H700V${250 + w / 2}H${230 + r}Z" ` +
        `fill="${a}"/>`,
    };
  },
  cup({ random, a, b }) {
    const w = between(random, 24, 60);
    return {
      width: 1000,
      height: 800,
      body:
        `<path d="M180 220H680V520Q680 660 540 660H320Q180 660 180 520Z" fill="${a}"/><path ` +
        `d="M660 300Q860 280 850 420Q840 560 660 540" fill="none" stroke="${a}" ` +
        `stroke-width="${w}"/><rect x="140" y="700" width="580" height="30" rx="15" fill="${b}"/>`,
    };
  },
  wheel({ random, a }) {
    const w = between(random, 16, 60);
    const spokes = Math.floor(between(random, 4, 13));
    return {
      width: 1000,
      height: 1000,
      body:
        `<circle cx="500" cy="500" r="400" fill="none" stroke="${a}" ` +
        `stroke-width="${w * 1.3}"/><path ` +
        `d="${times(spokes, (k) => `M500 500L${polar(500, 500, 400, (k / spokes) * 2 * Math.PI)}`)}" ` +
        `stroke="${a}" stroke-width="${w * 0.8}"/><circle cx="500" cy="500" ` +
        `r="${between(random, 50, 110)}" fill="${a}"/>`,
    };
  },
  lattice({ random, a }) {
    const n = Math.floor(between(random, 3, 7));
    const w = between(random, 0.12, 0.4) * (760 / n);
    const lines = Array.from({ length: n + 1 }, (_, k) => 120 + (760 / n) * k);
    return {
      width: 1000,
      height: 1000,
      body:
        `<path d="${lines.map((p) => `M120 ${p}H880M${p} 120V880`).join('')}" stroke="${a}" ` +
        `stroke-width="${w}" stroke-linecap="square" ` +
        `transform="rotate(${pick(random, [0, 0, 45])} 500 500)"/>`,
    };
  },
  links({ random, a, b }) {
    const w = between(random, 24, 70);
    return {
      width: 1000,
      height: 500,
      body: [230, 410, 590, 770]
        .map(
          (x, k) =>
            `<rect x="${x - 130}" y="150" width="260" height="200" rx="100" fill="none" ` +
            `stroke="${k % 2 ? b : a}" stroke-width="${w}"/>`,
        )
        .join(''),
    };
  },
  monogram({ random, a, b }) {
    const [p, q] = [pick(random, [...'ABDOPQR']), pick(random, [...'BDOPQR68'])];
    return {
      width: 1000,
      height: 1000,
      body:
        `<circle cx="500" cy="500" r="420" fill="none" stroke="${a}" ` +
        `stroke-width="${between(random, 12, 60)}"/><path ` +
        `d="${middle(p + q, between(random, 330, 420), 620)}" fill="${b}"/>`,
    };
  },
  gear({ random, a }) {
    const teeth = Math.floor(between(random, 8, 15));
    const hole = between(random, 130, 200);
    return {
      width: 1000,
      height: 1000,
      body:
        `<path fill-rule="evenodd" d="${around(teeth * 4, 500, 500, (k) => (k % 4 < 2 ? 420 : 340))}M${500 + hole} ` +
        `500A${hole} ${hole} 0 1 0 ${500 - hole} 500A${hole} ${hole} 0 1 0 ${500 + hole} ` +
        `500Z" fill="${a}"/>`,
    };
  },
  outlinedWord({ random, a }) {
    const text = pick(random, words);
    const size = fitText(text, 'grotesque', 880, 260);
    return {
      width: 1000,
      height: 420,
      body:
        `<path d="${middle(text, size, 270)}" fill="none" stroke="${a}" ` +
        `stroke-width="${size * between(random, 0.018, 0.04)}" stroke-linejoin="round"/>`,
    };
  },
  wreath({ random, a, b }) {
    const leaves = Math.floor(between(random, 14, 30));
    const r = 340;
    return {
      width: 1000,
      height: 1000,
      body:
        `<circle cx="500" cy="500" r="${r}" fill="none" stroke="${a}" ` +
        `stroke-width="${between(random, 10, 22)}"/>` +
        times(
          leaves,
          (k) =>
            `<ellipse cx="${500 + r}" cy="500" rx="28" ry="64" fill="${a}" ` +
            `transform="rotate(${(k * 360) / leaves} 500 500) rotate(38 ${500 + r} 500)"/>`,
        ) +
        '<path ' +
        `d="${middle(pick(random, words).slice(0, 6), 130, 545)}" fill="${b}"/>`,
    };
  },
  bicycle({ random, a, b }) {
    const w = between(random, 12, 30);
    return {
      width: 1000,
      height: 640,
      body:
        `<g fill="none" stroke-width="${w}" stroke-linejoin="round"><circle cx="240" cy="420" ` +
        `r="150" stroke="${a}"/><circle cx="760" cy="420" r="150" stroke="${a}"/><path ` +
        'd="M240 420L380 200H650L480 420H240M380 200L480 420M650 200L760 420M620 140L650 ' +
        `200M340 160H430" stroke="${b}"/></g>`,
    };
  },
};

const solid: Record<string, (brush: Brush) => Drawing> = {
  roundel({ random, a, ground }) {
    const text = pick(random, words).slice(0, 7).toUpperCase();
    const style = { name: 'sans', size: between(random, 80, 110), spacing: 20 } as const;
    return {
      width: 1000,
      height: 1000,
      body:
        `<circle cx="500" cy="500" r="430" fill="${a}"/><path ` +
        `d="${textOnCircle(text, style, { cx: 500, cy: 500, radius: 300, angleRad: 0 })}" ` +
        `fill="${ground}"/><path d="M500 360L640 620H360Z" fill="${ground}"/><rect x="460" ` +
        `y="520" width="80" height="100" fill="${a}"/>`,
    };
  },
  bubble({ random, a, ground }) {
    const lines = Math.floor(between(random, 2, 4));
    const body =
      random() < 0.5
        ? [320, 500, 680]
            .map((x) => `<circle cx="${x}" cy="370" r="${between(random, 30, 50)}" fill="${ground}"/>`)
            .join('')
        : Array.from(
            { length: lines },
            (_, k) =>
              `<rect x="220" y="${260 + k * 90}" width="${560 - k * 90}" ` +
              `height="${between(random, 24, 44)}" fill="${ground}"/>`,
          ).join('');
    return {
      width: 1000,
      height: 800,
      body:
        `<rect x="100" y="120" width="800" height="500" rx="${between(random, 30, 200)}" ` +
        `fill="${a}"/><path d="M300 560V740L460 600Z" fill="${a}"/>${body}`,
    };
  },
  leaf({ random, a, ground }) {
    const w = between(random, 10, 26);
    return {
      width: 1000,
      height: 700,
      body:
        `<path d="M80 600C100 200 500 60 920 100C900 480 600 680 80 600Z" fill="${a}"/><path ` +
        'd="M220 540Q520 400 800 180M420 440L440 280M560 350L590 220M460 410L620 430M610 ' +
        `310L740 310" fill="none" stroke="${ground}" stroke-width="${w}" stroke-linecap="round"/>`,
    };
  },
  linedPlate({ random, a, b, ground }) {
    const w = between(random, 8, 24);
    const inset = between(random, 34, 60);
    return {
      width: 1000,
      height: 600,
      body:
        `<rect x="60" y="60" width="880" height="480" rx="40" fill="${a}"/><rect ` +
        `x="${60 + inset}" y="${60 + inset}" width="${880 - 2 * inset}" ` +
        `height="${480 - 2 * inset}" rx="24" fill="none" stroke="${ground}" ` +
        `stroke-width="${w}"/><path d="${middle(pick(random, words).slice(0, 8), 150, 350)}" ` +
        `fill="${random() < 0.5 ? ground : b}"/>`,
    };
  },
  camera({ random, a, b, ground }) {
    return {
      width: 1000,
      height: 760,
      body:
        `<rect x="120" y="200" width="760" height="460" rx="70" fill="${a}"/><rect x="360" ` +
        `y="130" width="240" height="120" rx="30" fill="${a}"/><circle cx="500" cy="430" ` +
        `r="${between(random, 120, 160)}" fill="${ground}"/><circle cx="500" cy="430" ` +
        `r="${between(random, 70, 100)}" fill="${b}"/><circle cx="770" cy="290" ` +
        `r="${between(random, 18, 34)}" fill="${ground}"/>`,
    };
  },
  face({ random, a, b, ground }) {
    return {
      width: 1000,
      height: 900,
      body:
        '<circle cx="500" cy="460" r="380" ' +
        `fill="${a}"/>` +
        [360, 640]
          .map(
            (x) =>
              `<ellipse cx="${x}" cy="370" rx="70" ry="90" fill="${ground}"/>` +
              `<circle cx="${x + 10}" cy="385" r="${between(random, 24, 44)}" fill="${b}"/>`,
          )
          .join('') +
        '<path ' +
        `d="M300 560Q500 ${between(random, 760, 860)} 700 560Q500 ` +
        `${between(random, 600, 650)} 300 560Z" fill="${ground}"/>`,
    };
  },
  mountain({ random, a, b, ground }) {
    return {
      width: 1000,
      height: 800,
      body:
        `<path d="M60 700L420 120L600 400L680 300L940 700Z" fill="${a}"/><path d="M420 ` +
        `190L500 320L450 370L410 320L360 380L345 310Z" fill="${ground}"/><path d="M300 ` +
        `640Q500 ${between(random, 540, 600)} 720 640Q500 ${between(random, 610, 640)} 300 ` +
        `640Z" fill="${random() < 0.5 ? ground : b}"/>`,
    };
  },
  house({ random, a, b, ground }) {
    const s = between(random, 70, 120);
    return {
      width: 1000,
      height: 860,
      body:
        '<path d="M500 80L920 420H820V780H180V420H80Z" ' +
        `fill="${a}"/>` +
        [320, 560]
          .map(
            (x) =>
              `<rect x="${x}" y="440" width="${s}" height="${s}" fill="${ground}"/>` +
              `<path d="M${x + s / 2} 440V${440 + s}M${x} ${440 + s / 2}H${x + s}" stroke="${a}" ` +
              `stroke-width="${between(random, 8, 16)}"/>`,
          )
          .join('') +
        '<rect ' +
        `x="450" y="630" width="90" height="120" fill="${b}"/>`,
    };
  },
  numbered({ random, a, b, ground }) {
    const n = digits(random);
    return {
      width: 1000,
      height: 1000,
      body:
        `<path d="${around(Math.floor(between(random, 5, 9)), 500, 500, () => 430, between(random, 0, 1))}" ` +
        `fill="${a}"/><circle cx="500" cy="500" r="${between(random, 240, 300)}" ` +
        `fill="${random() < 0.5 ? b : a}"/><path ` +
        `d="${middle(n, between(random, 220, 320), 590)}" fill="${ground}"/>`,
    };
  },
  ribbon({ random, a, b, ground }) {
    const text = pick(random, words);
    const size = fitText(text, 'sans', 600, 100);
    return {
      width: 1000,
      height: 500,
      body:
        '<path d="M40 190H240V350H40L100 270ZM960 190H760V350H960L900 270Z" ' +
        `fill="${b}"/><rect x="140" y="130" width="720" height="170" fill="${a}"/><path ` +
        `d="${textPath(text, 'sans', size, 500 - textWidth(text, 'sans', size) / 2, 245)}" ` +
        `fill="${ground}"/>`,
    };
  },
};

export const innerDrawings = { ...open, ...solid };

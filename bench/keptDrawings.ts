import { textPath, textWidth } from '../demo/text';
import { type Brush, type Drawing, type Random, between, fitText, pick, words } from './brush';

/**
 * The same hard questions in another style, never tuned on: block letters of bars, fish, trees and boats instead of
 * animals, crests and stamps instead of discs. Each draws in 1000 units across.
 */
const chance = (random: Random, share: number) => random() < share;
const whole = (random: Random, lo: number, hi: number) => Math.floor(between(random, lo, hi + 1));

/** Letters drawn of straight bars on a grid of 3 by 5. */
const BLOCKS: Record<string, string> = {
  A: '111101111101101',
  B: '111101111101111',
  D: '110101101101110',
  E: '111100110100111',
  H: '101101111101101',
  I: '111010010010111',
  L: '100100100100111',
  O: '111101101101111',
  P: '111101111100100',
  R: '111101111110101',
  T: '111010010010010',
  U: '101101101101111',
};
function blocks(text: string, x: number, y: number, cell: number): string {
  let d = '';
  let left = x;
  for (const letter of text) {
    [...(BLOCKS[letter] ?? '')].forEach((on, k) => {
      if (on === '1') d += `M${left + (k % 3) * cell} ${y + Math.floor(k / 3) * cell}h${cell}v${cell}h${-cell}Z`;
    });
    left += cell * 4;
  }
  return d;
}
/** The outline of block letters as a stroke: the letters in colour, and in white a little smaller over it. */
function hollow(d: string, w: number, a: string, inside: string | null): string {
  const outer = `stroke-width="${w * 2}"`;
  if (inside !== null)
    return (
      `<path d="${d}" fill="${a}" stroke="${a}" ${outer}/>` +
      `<path d="${d}" fill="${inside}" stroke="${inside}" stroke-width=".5"/>`
    );
  return (
    '<defs><mask id="h" maskUnits="userSpaceOnUse" x="0" y="0" width="1000" height="1000">' +
    `<path d="${d}" fill="#fff" stroke="#fff" ${outer}/>` +
    `<path d="${d}" fill="#000" stroke="#000" stroke-width=".5"/></mask></defs>` +
    `<rect width="1000" height="1000" fill="${a}" mask="url(#h)"/>`
  );
}

const pictures: Record<string, (random: Random, fill: string, back: string) => string> = {
  fish: (random, fill, back) =>
    `<path d="M250 500Q430 ${between(random, 300, 380)} 640 500Q430 ${between(random, 620, 700)} 250 500Z" ` +
    `fill="${fill}"/>` +
    `<path d="M650 500L770 400Q740 500 770 600Z" fill="${fill}"/><circle cx="350" cy="480" r="16" fill="${back}"/>` +
    `<path d="M430 430Q480 500 430 570" stroke="${back}" stroke-width="12" fill="none"/>`,
  tree: (random, fill) =>
    `<path d="M500 210L640 420H560L680 580H320L440 420H360Z" fill="${fill}"/><rect x="460" y="600" width="80" ` +
    `height="${between(random, 90, 160)}" fill="${fill}"/>` +
    `<path d="M250 ${between(random, 770, 790)}h500v20h-500Z" fill="${fill}"/>`,
  boat: (random, fill, back) =>
    `<path d="M480 220V590H290Z" fill="${fill}"/><path d="M510 ${between(random, 260, 330)}L690 590H510Z" ` +
    `fill="${fill}"/>` +
    `<path d="M250 620H750Q700 740 600 740H400Q300 740 250 620Z" fill="${fill}"/><path d="M330 680h300" ` +
    `stroke="${back}" stroke-width="14"/>`,
  owl: (random, fill, back) =>
    `<path d="M330 300L400 340H600L670 300V600Q670 760 500 760Q330 760 330 600Z" fill="${fill}"/>` +
    [420, 580]
      .map(
        (x) =>
          `<circle cx="${x}" cy="430" r="${between(random, 52, 64)}" fill="${back}"/><circle cx="${x}" cy="430" ` +
          `r="24" fill="${fill}"/>`,
      )
      .join('') +
    `<path d="M480 500h40l-20 40Z" fill="${back}"/>`,
};

export const keptDrawings: Record<string, (brush: Brush) => Drawing> = {
  crest({ random, a, ground }) {
    const picture = pick(random, Object.values(pictures));
    const w = between(random, 8, 20);
    return {
      width: 1000,
      height: 1000,
      body:
        `<path d="M500 40Q700 120 900 110Q930 560 500 960Q70 560 100 110Q300 120 500 40Z" fill="${a}"/>` +
        `<path d="M500 90Q690 160 856 155Q870 540 500 900Q130 540 144 155Q310 160 500 90Z" fill="none" ` +
        `stroke="${ground}" stroke-width="${chance(random, 0.6) ? w : 0}"/>` +
        `<g transform="translate(500 440) scale(${between(random, 0.8, 1.05)}) translate(-500 ` +
        `-500)">${picture(random, ground, a)}</g>`,
    };
  },
  stamp({ random, a, ground }) {
    const text = pick(random, ['BOLD', 'HAUL', 'TIDE', 'RIDDLE', 'HARBOR', 'PILOT']);
    const cell = Math.min(46, 800 / (text.length * 4));
    const left = 500 - (text.length * 4 - 1) * cell * 0.5;
    const d = blocks(text, left, 250 - cell * 2.5, cell);
    const isHole = chance(random, 0.4);
    const scallop = Array.from({ length: 25 }, (_, k) => `M${40 + k * 38} 60a16 16 0 1 0 .1 0Z`).join('');
    return {
      width: 1000,
      height: 500,
      body: isHole
        ? `<path d="M40 60H960V440H40Z${d}" fill="${a}" fill-rule="evenodd"/>`
        : `<path d="M40 60H960V440H40Z" fill="${a}"/><path d="${d}" fill="${ground}"/><path d="${scallop}" ` +
          `fill="${a}"/>`,
    };
  },
  hollowBlocks({ random, a, ground }) {
    const text = pick(random, ['TIDAL', 'HARBOR', 'BOLD', 'DEBTOR', 'PILOT', 'HULLED']);
    const cell = Math.min(56, 860 / (text.length * 4));
    const d = blocks(text, 500 - (text.length * 4 - 1) * cell * 0.5, 80, cell);
    return {
      width: 1000,
      height: 440,
      body: hollow(d, cell * between(random, 0.1, 0.22), a, chance(random, 0.4) ? null : ground),
    };
  },
  blockCounters({ random, a, b }) {
    const text = pick(random, ['BOARD', 'PADDOL', 'ROAD', 'ABODE', 'HARBOR']);
    const cell = Math.min(40, 860 / (text.length * 4));
    const under = pick(random, ['PAPER AND BOARD', 'DOOR 468', 'BARREL ROAD', 'PROPER BEDDING']);
    const size = fitText(under, 'grotesque', between(random, 300, 700), 70);
    const grow = cell * between(random, 0, 0.5);
    return {
      width: 1000,
      height: 420,
      body:
        `<path d="${blocks(text, 500 - (text.length * 4 - 1) * cell * 0.5, 60, cell)}" fill="${a}" stroke="${a}" ` +
        `stroke-width="${grow}"/>` +
        `<path d="${textPath(under, 'grotesque', size, 500 - textWidth(under, 'grotesque', size) / 2, 350)}" ` +
        `fill="${b}"/>`,
    };
  },
  hoop({ random, a, b, ground }) {
    const w = between(random, 30, 110);
    const fill = chance(random, 0.5) ? ground : 'none';
    const sides = whole(random, 5, 9);
    const outer = Array.from({ length: sides }, (_, k) => {
      const t = ((k + 0.5) / sides) * 2 * Math.PI;
      return `${500 + (440 - w / 2) * Math.sin(t)} ${500 - (440 - w / 2) * Math.cos(t)}`;
    }).join('L');
    const picture = pick(random, Object.values(pictures));
    return {
      width: 1000,
      height: 1000,
      body:
        `<path d="M${outer}Z" fill="${fill}" stroke="${a}" stroke-width="${w}"/>` +
        `<g transform="translate(500 500) scale(.8) translate(-500 ` +
        `-500)">${picture(random, b, fill === 'none' ? a : ground)}</g>`,
    };
  },
  billboard({ random, a, b, ground }) {
    const bars = whole(random, 3, 6);
    const bar = (k: number) =>
      `<rect x="${180 + (640 / bars) * k}" y="${300 - k * 24}" ` +
      `width="${(640 / bars) * between(random, 0.35, 0.65)}" height="${300 + k * 24}" fill="${ground}"/>`;
    const silhouette = `<rect x="90" y="60" width="820" height="640" rx="110"/>`;
    const word = pick(random, words).toUpperCase();
    const letters =
      `<path d="${textPath(word, 'grotesque', fitText(word, 'grotesque', 800, 150), 100, 880)}" ` + `fill="${b}"/>`;
    return {
      width: 1000,
      height: 960,
      body:
        `<defs><filter id="s" x="-30%" y="-30%" width="160%" height="160%"><feGaussianBlur ` +
        `stdDeviation="${between(random, 7, 18)}"/></filter></defs>` +
        `<g fill-opacity="${between(random, 0.3, 0.5)}" filter="url(#s)" ` +
        `transform="translate(${between(random, 4, 18)} ` +
        `${between(random, 8, 20)})">${silhouette}${letters.replace(/ fill="[^"]*"/, '')}</g>` +
        `<g fill="${a}">${silhouette}</g>${Array.from({ length: bars }, (_, k) => bar(k)).join('')}${letters}`,
    };
  },
  halo({ random, a, b }) {
    const rays = whole(random, 9, 15);
    const d = Array.from(
      { length: rays },
      (_, k) =>
        `<rect x="485" y="${between(random, 90, 150)}" width="30" height="260" rx="15" ` +
        `transform="rotate(${(k * 360) / rays} 500 500)"/>`,
    ).join('');
    const glow = pick(random, ['#ff4fa0', '#29b6f6', '#8bc34a', b]);
    return {
      width: 1000,
      height: 1000,
      body:
        `<defs><filter id="g" x="-40%" y="-40%" width="180%" height="180%"><feGaussianBlur ` +
        `stdDeviation="${between(random, 12, 28)}"/></filter></defs>` +
        `<g fill="${glow}" stroke="${glow}" stroke-width="${between(random, 4, 26)}" filter="url(#g)">${d}</g><g ` +
        `fill="${a}">${d}<circle cx="500" cy="500" r="110"/></g>`,
    };
  },
  smallSign({ random, a, b }) {
    const word = pick(random, words);
    const size = fitText(word, 'sans', 620, 190);
    const d = textPath(word, 'sans', size, 300, 250);
    const mark = `<path d="M60 300L160 90L260 300Z"/>`;
    return {
      width: 1000,
      height: 400,
      body:
        `<defs><filter id="s" x="-30%" y="-30%" width="160%" height="160%"><feGaussianBlur ` +
        `stdDeviation="${between(random, 3, 8)}"/></filter></defs>` +
        `<g fill-opacity="${between(random, 0.3, 0.55)}" filter="url(#s)" ` +
        `transform="translate(${between(random, 3, 9)} ${between(random, 4, 9)})">${mark}<path d="${d}"/></g>` +
        `<g fill="${b}">${mark}</g><path d="${d}" fill="${a}"/>`,
    };
  },
};

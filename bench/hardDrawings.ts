import { textOnCircle, textPath, textWidth } from '../demo/text';
import { type Brush, type Drawing, type Random, between, fitText, pick, words } from './brush';

/**
 * Marks whose inner parts cannot be judged one by one: figures in plates, lettering knocked out of them, outlined
 * letters, the counters of small bold words, rings with a figure inside, and soft edges of every colour. Each draws in
 * 1000 units across. Where the ground's colour could be paint or a hole, both happen.
 */
const whole = (random: Random, lo: number, hi: number) => Math.floor(between(random, lo, hi + 1));
const chance = (random: Random, share: number) => random() < share;

/** Draws `cut` on `plate` in the ground's colour, or takes it out of it. */
function knock(plate: string, cut: string, ground: string, isHole: boolean, over = ''): string {
  if (!isHole) return `${plate}<g fill="${ground}" stroke="none">${cut}</g>${over}`;
  return (
    '<defs><mask id="k" maskUnits="userSpaceOnUse" x="0" y="0" width="1000" height="1000">' +
    '<rect width="1000" height="1000" fill="#fff"/>' +
    `<g fill="#000">${cut}</g></mask></defs><g mask="url(#k)">${plate}</g>${over}`
  );
}

function plateShape(random: Random, fill: string, h = 1000): string {
  const kind = whole(random, 0, 3);
  const c = h / 2;
  if (kind === 0) return `<ellipse cx="500" cy="${c}" rx="${c - 60}" ry="${c - 60}" fill="${fill}"/>`;
  if (kind === 1)
    return `<rect x="60" y="60" width="880" height="${h - 120}" rx="${between(random, 0, 160)}" fill="${fill}"/>`;
  if (kind === 2)
    return (
      `<path d="M90 80H910V${h * 0.55}Q910 ${h * 0.82} 500 ${h - 40}Q90 ${h * 0.82} 90 ${h * 0.55}Z" ` +
      `fill="${fill}"/>`
    );
  return `<path d="M500 30L940 ${h * 0.26}V${h * 0.74}L500 ${h - 30}L60 ${h * 0.74}V${h * 0.26}Z" fill="${fill}"/>`;
}

/** An animal of three to ten patches about (500, 500), some 480 wide, with gaps between them. */
function animal(random: Random): { patches: string; details: (fill: string) => string } {
  const long = between(random, 150, 220);
  const tall = between(random, 90, 150);
  const gap = between(random, 8, 18);
  const legs = whole(random, 2, 4);
  const patches = [
    `<ellipse cx="500" cy="520" rx="${long}" ry="${tall}"/>`,
    `<circle cx="${500 + long + 10}" cy="${400 - between(random, 0, 40)}" r="${between(random, 62, 88)}"/>`,
  ];
  for (let k = 0; k < legs; k++) {
    const x = 500 - long * 0.8 + ((long * 1.6) / (legs - 1)) * k - 20;
    patches.push(
      `<rect x="${x}" y="${520 + tall + gap}" width="${between(random, 30, 46)}" ` +
        `height="${between(random, 60, 110)}" rx="12"/>`,
    );
  }
  if (chance(random, 0.7)) patches.push(`<path d="M${500 - long - gap} 500q-90 -20 -70 -130q70 40 ${70 - gap} 110Z"/>`);
  if (chance(random, 0.6))
    patches.push(`<path d="M${500 + long - 10} 300l-26 -96l70 60Z"/><path d="M${500 + long + 50} 290l50 -90l16 92Z"/>`);
  const eye = { x: 500 + long + 26, y: 392, r: between(random, 9, 18) };
  const wing = chance(random, 0.6)
    ? `<path d="M${500 - long * 0.5} 480q${long * 0.5} 120 ${long} -20q-${long * 0.2} 150 -${long * 0.6} ` +
      `130q-${long * 0.3} -20 -${long * 0.4} -110Z" fill="none" stroke-width="${gap}"/>`
    : '';
  return {
    patches: patches.join(''),
    details: (fill) =>
      `<circle cx="${eye.x}" cy="${eye.y}" r="${eye.r}" fill="${fill}"/><g stroke="${fill}">${wing}</g>`,
  };
}

const centred = (text: string, font: 'grotesque' | 'sans' | 'thin', size: number, y: number) =>
  textPath(text, font, size, 500 - textWidth(text, font, size) / 2, y);

export const hardDrawings: Record<string, (brush: Brush) => Drawing> = {
  figureInPlate({ random, a, ground }) {
    const figure = animal(random);
    const isHole = chance(random, 0.12);
    const line = chance(random, 0.6)
      ? `<circle cx="500" cy="500" r="${between(random, 385, 408)}" fill="none" stroke="${ground}" ` +
        `stroke-width="${between(random, 6, 16)}"/>`
      : '';
    const plate = line ? `<circle cx="500" cy="500" r="440" fill="${a}"/>` : plateShape(random, a);
    const scale = between(random, 0.75, 1.12);
    const place = `translate(500 500) scale(${scale}) translate(-510 -500)`;
    return {
      width: 1000,
      height: 1000,
      body: knock(
        plate,
        `<g transform="${place}">${figure.patches}</g>${isHole ? line.replace(ground, '#000') : ''}`,
        ground,
        isHole,
        `${isHole ? '' : line}<g transform="${place}">${figure.details(a)}</g>`,
      ),
    };
  },
  knockedWord({ random, a, b, ground }) {
    const text = pick(random, words);
    const font = pick(random, ['grotesque', 'sans'] as const);
    const size = fitText(text, font, 720, between(random, 130, 230));
    const small = chance(random, 0.4) ? `<path d="${centred('est by the water', 'sans', 58, 400)}"/>` : '';
    return {
      width: 1000,
      height: 500,
      body:
        knock(
          plateShape(random, a, 500),
          `<path d="${centred(text, font, size, 300)}"/>${small}`,
          ground,
          chance(random, 0.4),
        ) + (chance(random, 0.3) ? `<circle cx="930" cy="60" r="46" fill="${b}"/>` : ''),
    };
  },
  outlinedRow({ random, a, ground }) {
    const text = pick(random, [
      'OSIER',
      'Bobbin',
      'PADDOCK',
      'Rowan',
      'ABODE',
      'Drover',
      'QUOIN 68',
      'Gable',
      'LITTLE',
      'Hull',
    ]);
    const size = fitText(text, 'grotesque', 820, 260);
    const w = size * between(random, 0.016, 0.04);
    const spaced = textPath(text, 'grotesque', size * 0.9, 60, 270, size * 0.06);
    return {
      width: 1000,
      height: 420,
      body:
        `<path d="${spaced}" fill="${chance(random, 0.6) ? ground : 'none'}" stroke="${a}" ` +
        `stroke-width="${w}" stroke-linejoin="round"/>`,
    };
  },
  boldCounters({ random, a, b }) {
    const first = pick(random, [
      'BARGAARD',
      'PARADE 46',
      'ROAD & QUAY',
      'DAPPER',
      'BOARDS',
      'Aboard',
      'Paddle 498',
      'REDBRAE',
    ]);
    const second = pick(random, [
      'the old ropewalk',
      'bread and barley',
      'paper goods',
      'est. 1908',
      'ADORE BAKED GOODS',
    ]);
    const size = fitText(first, 'grotesque', 800, 180);
    const small = fitText(second, 'grotesque', between(random, 420, 760), 90);
    return {
      width: 1000,
      height: 460,
      body:
        `<path d="${centred(first, 'grotesque', size, 210)}" fill="${a}" stroke="${a}" ` +
        `stroke-width="${size * between(random, 0, 0.06)}"/>` +
        `<path d="${centred(second, 'grotesque', small, 340)}" fill="${b}" stroke="${b}" ` +
        `stroke-width="${small * between(random, 0, 0.05)}"/>`,
    };
  },
  ringWithFigure({ random, a, b, ground }) {
    const w = between(random, 40, 120);
    const r = 440 - w / 2;
    const figure = animal(random);
    const inside = chance(random, 0.5) ? ground : 'none';
    const shape = chance(random, 0.7)
      ? `<circle cx="500" cy="500" r="${r}" fill="${inside}" stroke="${a}" stroke-width="${w}"/>`
      : `<rect x="${60 + w / 2}" y="${60 + w / 2}" width="${880 - w}" height="${880 - w}" ` +
        `rx="${between(random, 20, 180)}" fill="${inside}" stroke="${a}" stroke-width="${w}"/>`;
    return {
      width: 1000,
      height: 1000,
      body:
        `${shape}<g transform="translate(500 510) scale(${between(random, 0.75, 0.95)}) translate(-510 -500)" ` +
        `fill="${b}">` +
        `${figure.patches}${figure.details(inside === 'none' ? a : ground)}</g>`,
    };
  },
  letteredRing({ random, a, b }) {
    const text = `${pick(random, words)} ${pick(random, words)} `.toUpperCase();
    const r = between(random, 320, 350);
    const style = { name: 'grotesque', size: between(random, 70, 96), spacing: 12 } as const;
    return {
      width: 1000,
      height: 1000,
      body:
        `<path d="${textOnCircle(text, style, { cx: 500, cy: 500, radius: r, angleRad: 0 })}" fill="${a}"/>` +
        `<g transform="translate(500 500) scale(.55) translate(-510 -500)" fill="${b}">${animal(random).patches}</g>`,
    };
  },
  columnsOnPlate({ random, a, b, ground }) {
    const count = whole(random, 3, 5);
    const step = 560 / count;
    const w = step * between(random, 0.4, 0.7);
    const columns = Array.from(
      { length: count },
      (_, k) => `<rect x="${220 + k * step}" y="300" width="${w}" height="360"/>`,
    ).join('');
    const body =
      `<rect x="100" y="100" width="800" height="800" rx="${between(random, 60, 200)}" fill="${a}"/>` +
      `<g fill="${ground}"><path d="M180 260L500 150L820 260Z"/>${columns}<rect x="190" y="700" width="620" ` +
      `height="50"/></g>`;
    const word = pick(random, words);
    const letters = `<path d="${centred(word, 'grotesque', fitText(word, 'grotesque', 800, 170), 1090)}" fill="${b}"/>`;
    const silhouette =
      `<rect x="100" y="100" width="800" height="800" rx="120"/>` + letters.replace(/fill="[^"]*"/, 'fill="#000"');
    return { width: 1000, height: 1220, body: shadow(random, silhouette, [8, 20], [6, 22]) + body + letters };
  },
  spikesWithGlow({ random, a, b }) {
    const n = whole(random, 8, 18);
    const points = Array.from({ length: n * 2 }, (_, k) => {
      const t = (k / (n * 2)) * 2 * Math.PI;
      const r = k % 2 ? between(random, 150, 220) : between(random, 300, 360);
      return `${(500 + r * Math.cos(t)).toFixed(1)} ${(500 + r * Math.sin(t)).toFixed(1)}`;
    }).join('L');
    const glow = pick(random, ['#ff3d9a', '#ff7ac8', '#3db2ff', '#ffb300', '#52d66b', b]);
    return {
      width: 1000,
      height: 1000,
      body:
        `<defs><filter id="g" x="-40%" y="-40%" width="180%" height="180%"><feGaussianBlur ` +
        `stdDeviation="${between(random, 14, 34)}"/></filter></defs>` +
        `<path d="M${points}Z" fill="${glow}" stroke="${glow}" stroke-width="${between(random, 10, 50)}" ` +
        `fill-opacity="${between(random, 0.6, 1)}" filter="url(#g)"/>` +
        `<path d="M${points}Z" fill="${a}"/>`,
    };
  },
  slightShadow({ random, a, b }) {
    const text = pick(random, words);
    const size = fitText(text, 'grotesque', 660, 200);
    const d = textPath(text, 'grotesque', size, 270, 260);
    const mark = `<circle cx="150" cy="195" r="90"/>`;
    return {
      width: 1000,
      height: 400,
      body:
        shadow(random, `${mark}<path d="${d}"/>`, [4, 9], [4, 10]) +
        `<g fill="${b}">${mark}</g><path d="${d}" fill="${a}"/>`,
    };
  },
};

function shadow(random: Random, silhouette: string, blur: [number, number], offset: [number, number]): string {
  return (
    '<defs><filter id="sh" x="-30%" y="-30%" width="160%" height="160%"><feGaussianBlur ' +
    `stdDeviation="${between(random, ...blur)}"/></filter></defs><g fill="#000" ` +
    `fill-opacity="${between(random, 0.25, 0.5)}" ` +
    `filter="url(#sh)" transform="translate(${between(random, ...offset)} ` +
    `${between(random, ...offset)})">${silhouette}</g>`
  );
}

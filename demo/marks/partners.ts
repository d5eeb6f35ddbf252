import { type FontName, textOnCircle, textPath, textWidth } from '../text';

/** A towpath partner's logo as a drawing. */
export interface PartnerDrawing {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly body: string;
}

interface Style {
  readonly font: FontName;
  readonly size: number;
  readonly fill: string;
  readonly spacing?: number;
}

const line = (text: string, { font, size, fill, spacing = 0 }: Style, x: number, y: number) =>
  `<path d="${textPath(text, font, size, x, y, spacing)}" fill="${fill}"/>`;
const centred = (text: string, style: Style, cx: number, y: number) =>
  line(text, style, cx - textWidth(text, style.font, style.size, style.spacing ?? 0) / 2, y);

function millAndWeir(): PartnerDrawing {
  const size = 120;
  const width = textWidth('Mill & Weir', 'grotesque', size);
  return {
    ...{ id: 'mill-and-weir', name: 'Mill & Weir', width: Math.ceil(width) + 4, height: 130 },
    body: line('Mill & Weir', { font: 'grotesque', size: size, fill: '#2b4a78' }, 2, 100),
  };
}

function osier(): PartnerDrawing {
  const stems = [-34, -12, 12, 34].map((d) => `M100 150C${100 + d} 110 ${100 + d * 2} 60 ${100 + d * 1.6} 14`).join('');
  return {
    ...{ id: 'osier', name: 'Osier', width: 200, height: 250 },
    body:
      `<path d="${stems}" fill="none" stroke="#5d7f35" stroke-width="9" stroke-linecap="round"/>` +
      `${centred('osier', { font: 'sans', size: 74, fill: '#5d7f35' }, 100, 226)}`,
  };
}

const northcut = (): PartnerDrawing => ({
  ...{ id: 'northcut-barges', name: 'Northcut Barges', width: 560, height: 190 },
  body:
    centred('NORTHCUT', { font: 'sans', size: 100, fill: '#a62f33', spacing: 3 }, 280, 100) +
    `<path d="M20 132H540L500 168H60Z" fill="#a62f33"/><path d="M60 148H500" stroke="#ffffff" stroke-width="5"/>`,
});

function lanternfold(): PartnerDrawing {
  const first = textWidth('Lantern', 'sans', 110);
  return {
    ...{
      id: 'lanternfold',
      name: 'Lanternfold',
      width: Math.ceil(first + textWidth('fold', 'sans', 110)) + 8,
      height: 140,
    },
    body:
      line('Lantern', { font: 'sans', size: 110, fill: '#2a2730' }, 4, 104) +
      line('fold', { font: 'sans', size: 110, fill: '#c98a18' }, 4 + first, 104),
  };
}

const reedling = (): PartnerDrawing => ({
  ...{ id: 'reedling', name: 'Reedling', width: 420, height: 130 },
  body: centred('Reedling', { font: 'grotesque', size: 92, fill: '#2c6f6a' }, 210, 96),
});

const ROUND_LETTERS = { name: 'sans', size: 33, spacing: 3 } as const;
const ROUND = { cx: 160, cy: 160, radius: 108, angleRad: 0 };

const sluiceAndSons = (): PartnerDrawing => ({
  ...{ id: 'sluice-and-sons', name: 'Sluice & Sons', width: 320, height: 320 },
  body:
    `<circle cx="160" cy="160" r="148" fill="#24384f"/><circle cx="160" cy="160" r="96" fill="none" ` +
    `stroke="#ffffff" stroke-width="6"/>` +
    `<path d="M112 120H208M112 160H208M112 200H208M136 96V224M184 96V224" stroke="#ffffff" stroke-width="10"/>` +
    `<path d="${textOnCircle('SLUICE & SONS · GATES AND RACKS ·', ROUND_LETTERS, ROUND)}" fill="#ffffff"/>`,
});

const quayLane = (): PartnerDrawing => ({
  ...{ id: 'quay-lane-bakery', name: 'Quay Lane Bakery', width: 460, height: 300 },
  body:
    `<path d="M60 150C60 40 400 40 400 150Z" fill="#c77d3a"/><path d="M140 96l40 44M215 78l40 62M290 84l30 54" ` +
    `stroke="#f6e3c5" stroke-width="12" stroke-linecap="round"/>` +
    centred('Quay Lane', { font: 'grotesque', size: 86, fill: '#5a3620' }, 230, 236) +
    centred('BAKERY', { font: 'sans', size: 40, fill: '#5a3620', spacing: 14 }, 230, 286),
});

const heronry = (): PartnerDrawing => ({
  ...{ id: 'heronry', name: 'The Heronry', width: 180, height: 420 },
  body:
    `<path d="M84 30C128 22 150 60 120 92C84 130 60 170 84 240C96 276 130 270 140 240C150 205 118 190 104 172" ` +
    `fill="none" stroke="#4d6b86" stroke-width="16" stroke-linecap="round"/>` +
    `<path d="M84 34L14 58L84 62Z" fill="#d99a2b"/><path d="M100 268V356M124 262V356" stroke="#4d6b86" ` +
    `stroke-width="8"/>` +
    centred('heronry', { font: 'thin', size: 46, fill: '#4d6b86', spacing: 2 }, 90, 406),
});

const tillerhand = (): PartnerDrawing => ({
  ...{ id: 'tillerhand', name: 'Tillerhand', width: 760, height: 96 },
  body: centred('TILLERHAND', { font: 'thin', size: 84, fill: '#1f1d22', spacing: 26 }, 380, 78),
});

const pollardRope = (): PartnerDrawing => ({
  ...{ id: 'pollard-rope', name: 'Pollard Rope', width: 300, height: 300 },
  body:
    `<rect x="6" y="6" width="288" height="288" rx="46" fill="#7a4b86"/>` +
    `<path d="M70 96C110 56 190 136 230 96M70 146C110 106 190 186 230 146M70 196C110 156 190 236 230 196" ` +
    `fill="none" stroke="#ffffff" stroke-width="17" stroke-linecap="round"/>` +
    centred('pollard', { font: 'sans', size: 44, fill: '#ffffff', spacing: 3 }, 150, 266),
});

const wharfRadio = (): PartnerDrawing => ({
  ...{ id: 'wharfside-radio', name: 'Wharfside Radio', width: 580, height: 180 },
  body:
    [26, 52, 78]
      .map(
        (r) =>
          `<path d="M${92 - r * 0.7} ${92 - r * 0.7}A${r} ${r} 0 0 1 ${92 + r * 0.7} ${92 - r * 0.7}" ` +
          `fill="none" stroke="#d2453d" stroke-width="13" stroke-linecap="round"/>`,
      )
      .join('') +
    `<circle cx="92" cy="98" r="13" fill="#d2453d"/><path d="M92 100V166" stroke="#26303a" stroke-width="13" ` +
    `stroke-linecap="round"/>` +
    line('Wharfside', { font: 'grotesque', size: 66, fill: '#26303a' }, 188, 88) +
    line('RADIO', { font: 'sans', size: 44, fill: '#d2453d', spacing: 16 }, 190, 146),
});

const otterAndOar = (): PartnerDrawing => ({
  ...{ id: 'otter-and-oar', name: 'Otter & Oar', width: 360, height: 240 },
  body:
    `<path d="M40 118C90 40 250 40 318 112C262 160 98 166 40 118Z" fill="#3b5d4c"/><circle cx="262" cy="100" ` +
    `r="9" fill="#ffffff"/>` +
    `<path d="M20 30L330 168" stroke="#b9782f" stroke-width="11" stroke-linecap="round"/>` +
    centred('Otter & Oar', { font: 'sans', size: 56, fill: '#3b5d4c' }, 180, 224),
});

/** The towpath's twelve partners, in the order in which their page shows them. */
export const partnerDrawings = (): PartnerDrawing[] => [
  millAndWeir(),
  osier(),
  northcut(),
  lanternfold(),
  reedling(),
  sluiceAndSons(),
  quayLane(),
  heronry(),
  tillerhand(),
  pollardRope(),
  wharfRadio(),
  otterAndOar(),
];

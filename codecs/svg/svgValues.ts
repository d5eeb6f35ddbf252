import { IDENTITY, type Matrix, multiply } from '../../core/geometry/matrix';

/** Colour names of CSS: those that drawing programs write, and the common others. */
const NAMES: Readonly<Record<string, string>> = Object.fromEntries(
  (
    'black 000000,silver c0c0c0,gray 808080,grey 808080,white ffffff,maroon 800000,red ff0000,purple 800080,' +
    'fuchsia ff00ff,magenta ff00ff,green 008000,lime 00ff00,olive 808000,yellow ffff00,navy 000080,blue 0000ff,' +
    'teal 008080,aqua 00ffff,cyan 00ffff,orange ffa500,brown a52a2a,pink ffc0cb,gold ffd700,beige f5f5dc,' +
    'ivory fffff0,coral ff7f50,salmon fa8072,tomato ff6347,crimson dc143c,indigo 4b0082,violet ee82ee,' +
    'khaki f0e68c,tan d2b48c,turquoise 40e0d0,orchid da70d6,plum dda0dd,sienna a0522d,chocolate d2691e,' +
    'darkgray a9a9a9,darkgrey a9a9a9,lightgray d3d3d3,lightgrey d3d3d3,dimgray 696969,dimgrey 696969,' +
    'darkblue 00008b,darkgreen 006400,darkred 8b0000,darkorange ff8c00,steelblue 4682b4,royalblue 4169e1,' +
    'slategray 708090,slategrey 708090,midnightblue 191970,forestgreen 228b22,seagreen 2e8b57,skyblue 87ceeb,' +
    'lightblue add8e6,lightgreen 90ee90,whitesmoke f5f5f5,gainsboro dcdcdc,firebrick b22222,rebeccapurple 663399'
  )
    .split(',')
    .map((pair) => pair.split(' '))
    .map(([name, hex]) => [name, `#${hex}`]),
);

/** A colour and how much of it there is; null for a word that is none. */
export function readColour(text: string): { hex: string; alpha: number } | null {
  const word = text.trim().toLowerCase();
  if (word === 'transparent') return { hex: '#000000', alpha: 0 };
  if (NAMES[word]) return { hex: NAMES[word], alpha: 1 };
  const digits = /^#([0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})$/.exec(word)?.[1];
  if (digits) {
    const long = digits.length < 5 ? [...digits].map((c) => c + c).join('') : digits;
    const alpha = long.length === 8 ? parseInt(long.slice(6), 16) / 255 : 1;
    return { hex: `#${long.slice(0, 6)}`, alpha };
  }
  const call = /^rgba?\(([^)]*)\)$/.exec(word);
  if (!call) return null;
  const parts = call[1].split(/[\s,/]+/).filter(Boolean);
  if (parts.length < 3) return null;
  const channel = (v: string) => (v.endsWith('%') ? (parseFloat(v) / 100) * 255 : parseFloat(v));
  const rgb = parts.slice(0, 3).map(channel);
  const alpha = parts[3] === undefined ? 1 : readShare(parts[3]);
  if (!rgb.every(Number.isFinite)) return null;
  const hex = rgb.map((v) =>
    Math.round(Math.min(255, Math.max(0, v)))
      .toString(16)
      .padStart(2, '0'),
  );
  return { hex: `#${hex.join('')}`, alpha };
}

/** A share from 0 to 1, or a percentage; 1 for what is none. */
export function readShare(text: string | undefined): number {
  if (text === undefined) return 1;
  const v = text.trim().endsWith('%') ? parseFloat(text) / 100 : Number(text);
  return Number.isFinite(v) ? Math.min(1, Math.max(0, v)) : 1;
}

const PX_OF: Readonly<Record<string, number>> = {
  px: 1,
  pt: 96 / 72,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  in: 96,
  em: 16,
  ex: 8,
};

/**
 * A length in user units. @param whole  what a percentage is of; null where none is known @returns null for no
 * length
 */
export function readLength(text: string, whole: number | null): number | null {
  const match = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z%]*)\s*$/i.exec(text);
  if (!match) return null;
  const v = Number(match[1]);
  if (match[2] === '%') return whole === null ? null : (v / 100) * whole;
  const unit = match[2] === '' ? 1 : PX_OF[match[2].toLowerCase()];
  return unit === undefined ? null : v * unit;
}

/** A list of transforms as one matrix. @returns null for words that are none */
export function readTransform(text: string): Matrix | null {
  let matrix = IDENTITY;
  for (const [, kind, list] of text.matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
    const n = list
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (!n.every((v) => Number.isFinite(v) && Math.abs(v) < 1e9)) return null;
    const one = oneTransform(kind, n);
    if (!one) return null;
    matrix = multiply(matrix, one);
  }
  return matrix;
}

const rad = (deg: number) => (deg * Math.PI) / 180;

function oneTransform(kind: string, n: readonly number[]): Matrix | null {
  switch (kind) {
    case 'matrix':
      return n.length === 6 ? (n as unknown as Matrix) : null;
    case 'translate':
      return [1, 0, 0, 1, n[0], n[1] ?? 0];
    case 'scale':
      return [n[0], 0, 0, n[1] ?? n[0], 0, 0];
    case 'rotate': {
      const [cos, sin] = [Math.cos(rad(n[0])), Math.sin(rad(n[0]))];
      const [cx, cy] = [n[1] ?? 0, n[2] ?? 0];
      return [cos, sin, -sin, cos, cx - cos * cx + sin * cy, cy - sin * cx - cos * cy];
    }
    case 'skewX':
      return [1, 0, Math.tan(rad(n[0])), 1, 0, 0];
    case 'skewY':
      return [1, Math.tan(rad(n[0])), 0, 1, 0, 0];
    default:
      return null;
  }
}

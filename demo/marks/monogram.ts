import { textPath, textWidth } from '../text';

/** HL in a ring, white. The drawing is 600 units each way. */
export function monogramSvg(size: number): string {
  const left = (600 - textWidth('HL', 'grotesque', 250, 6)) / 2;
  return `<g transform="scale(${size / 600})">
  <circle cx="300" cy="300" r="252" fill="none" stroke="#ffffff" stroke-width="26"/>
    <path d="${textPath('HL', 'grotesque', 250, left, 388, 6)}" fill="#ffffff"/></g>`;
}

import { palette } from '../palette';
import { textPath, textWidth } from '../text';

/** The place's name with a thin wave under it. The drawing is 1000 units wide and 300 high. */
export function wordmarkSvg(width: number): string {
  const size = 168;
  const text = 'Harrowmere';
  const left = (1000 - textWidth(text, 'grotesque', size)) / 2;
  let wave = 'M90 232';
  for (let x = 90; x < 910; x += 82) wave += `q20.5 -18 41 0q20.5 18 41 0`;
  return `<g transform="scale(${width / 1000})">
    <path d="${textPath(text, 'grotesque', size, left, 172)}" fill="${palette.canalGreen}"/>
    <path d="${wave}" fill="none" stroke="${palette.fogBlue}" stroke-width="7"/>
  </g>`;
}

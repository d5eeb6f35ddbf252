import { palette } from '../palette';
import { textOnCircle } from '../text';

/**
 * The trust's badge: a heron before an eight-spoked paddle wheel, lettering round the rim.
 * The eye and the waterline are white and belong to the mark; the gaps between the spokes are ground.
 */
export function badgeSvg(size: number): string {
  const c = 500;
  const spokes = Array.from({ length: 8 }, (_, k) => {
    const a = (k * Math.PI) / 4;
    const at = (r: number, side: number) =>
      `${(c + r * Math.sin(a) + side * Math.cos(a)).toFixed(1)} ` +
      `${(c - r * Math.cos(a) + side * Math.sin(a)).toFixed(1)}`;
    return `M${at(120, -11)}L${at(285, -11)}L${at(285, 11)}L${at(120, 11)}Z`;
  }).join('');
  const top = textOnCircle(
    'HARROWMERE LOCK KEEPERS’',
    { name: 'sans', size: 62, spacing: 9 },
    { cx: c, cy: c, radius: 368, angleRad: 0 },
  );
  const bottom = textOnCircle(
    'TRUST',
    { name: 'sans', size: 62, spacing: 22 },
    { cx: c, cy: c, radius: 412, angleRad: Math.PI, isInward: true },
  );
  const heron =
    'M470 292C500 258 556 262 566 300L700 322L570 340C560 372 520 388 512 430C506 470 560 ' +
    '520 556 600C552 650 532 690 520 716L536 800L520 800L500 722L490 722L484 800L468 ' +
    '800L474 716C440 680 428 620 440 560C452 500 470 470 462 420C456 380 440 330 470 292Z';
  const water =
    'M330 690C370 664 400 716 440 690C480 664 510 716 550 690C590 664 620 716 670 690L670 ' +
    '716C620 742 590 690 550 716C510 742 480 690 440 716C400 742 370 690 330 716Z';
  return `<g transform="scale(${size / 1000})">
    <circle cx="${c}" cy="${c}" r="466" fill="none" stroke="${palette.canalGreen}" stroke-width="20"/>
    <circle cx="${c}" cy="${c}" r="306" fill="none" stroke="${palette.canalGreen}" stroke-width="42"/>
    <path d="${spokes}" fill="${palette.canalGreen}"/>
    <circle cx="${c}" cy="${c}" r="120" fill="${palette.canalGreen}"/>
    <path d="${top}${bottom}" fill="${palette.canalGreen}"/>
    <path d="${heron}" fill="${palette.paddleRed}"/>
    <path d="${water}" fill="#ffffff" stroke="${palette.canalGreen}" stroke-width="7"/>
    <circle cx="524" cy="304" r="13" fill="#ffffff"/>
  </g>`;
}

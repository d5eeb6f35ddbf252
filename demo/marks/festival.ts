import { textPath, textWidth } from '../text';

/** Towpath Days: a graded sunrise over the water with a soft shadow. The drawing is 1000 units each way. */
export function festivalSvg(size: number): string {
  const title = 'Towpath Days';
  const left = (1000 - textWidth(title, 'grotesque', 118)) / 2;
  const rays = Array.from({ length: 9 }, (_, k) => {
    const a = Math.PI * (0.1 + 0.1 * k);
    const at = (r: number, d: number) =>
      `${(500 - r * Math.cos(a + d)).toFixed(1)} ${(520 - r * Math.sin(a + d)).toFixed(1)}`;
    return `M${at(300, -0.028)}L${at(392, -0.02)}L${at(392, 0.02)}L${at(300, 0.028)}Z`;
  }).join('');
  return `<defs>
    <linearGradient id="sun" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#f6c445"/>
      <stop offset="1" stop-color="#d9482b"/></linearGradient>
    <filter id="soft" x="-20%" y="-20%" width="140%" height="140%"><feGaussianBlur stdDeviation="14"/></filter></defs>
  <g transform="scale(${size / 1000})">
    <path d="M240 532A260 260 0 0 1 760 532Z" fill="#000000" fill-opacity="0.34" filter="url(#soft)"
      transform="translate(16 26)"/>
    <path d="M240 520A260 260 0 0 1 760 520Z" fill="url(#sun)"/>
    <path d="${rays}" fill="#e98a2e"/>
    <rect x="180" y="548" width="640" height="22" fill="#2d6f8e"/>
    <rect x="240" y="592" width="520" height="16" fill="#2d6f8e"/>
    <rect x="310" y="630" width="380" height="10" fill="#2d6f8e"/>
    <path d="${textPath(title, 'grotesque', 118, left, 800)}" fill="#22343f"/>
  </g>`;
}

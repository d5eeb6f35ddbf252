import { palette } from '../palette';
import { textPath } from '../text';

/**
 * The lock-house concept: three flat colours, and lettering that came out garbled. The drawing is 1024 units each way.
 */
export const lockHouseSvg = (size: number): string => `<g transform="scale(${size / 1024})">
    <path d="M512 170L840 420L840 720L184 720L184 420Z" fill="#9a5a49"/>
    <path d="M512 120L900 410L866 452L512 186L158 452L124 410Z" fill="${palette.lampBlack}"/>
    <rect x="440" y="500" width="144" height="220" fill="${palette.enamelCream}"/>
    <rect x="260" y="500" width="104" height="104" fill="${palette.enamelCream}"/>
    <rect x="660" y="500" width="104" height="104" fill="${palette.enamelCream}"/>
    <rect x="120" y="742" width="784" height="26" fill="${palette.lampBlack}"/>
    <path d="${textPath('LOKC HUOSSE', 'sans', 88, 232, 880, 12)}" fill="#9a5a49" transform="rotate(1.5 512 850)"/>
  </g>`;

import { palette } from '../palette';

/** A signal flag on its pole. The drawing is 800 units each way. */
export const signalFlagSvg = (size: number): string => `<g transform="scale(${size / 800})">
    <rect x="180" y="80" width="26" height="640" rx="13" fill="${palette.lampBlack}"/>
    <path d="M206 120L640 120L560 250L640 380L206 380Z" fill="${palette.paddleRed}"/>
    <circle cx="360" cy="250" r="72" fill="${palette.enamelCream}"/>
  </g>`;

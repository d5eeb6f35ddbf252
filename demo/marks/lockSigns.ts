import { palette } from '../palette';

const { canalGreen: green, paddleRed: red, fogBlue: blue } = palette;

/** Each sign in a field of 100 × 100. Lines are strokes, as drawing programs leave them. */
const signs: readonly string[] = [
  // Up, down: the way of the water.
  '<path class="g" d="M50 12L82 50H62V88H38V50H18Z"/>',
  '<path class="g" d="M50 88L82 50H62V12H38V50H18Z"/>',
  // A pair of gates.
  '<path class="l" d="M14 20V84M86 20V84M14 30L48 46M86 30L52 46M14 74L48 60M86 74L52 60"/>',
  // A windlass.
  '<path class="l" d="M22 78H50V26H74"/><circle class="r" cx="78" cy="26" ' +
    'r="10"/><circle class="r" cx="20" cy="78" r="10"/>',
  // Deep water.
  '<path class="w" d="M10 40Q23 26 36 40T62 40T90 40M10 60Q23 46 36 60T62 60T90 60M10 80Q23 66 36 80T62 80T90 80"/>',
  // A boat.
  '<path class="g" d="M10 58H90L78 80H24Z"/><path class="r" d="M46 16L74 50H46Z"/><path class="l" d="M44 14V58"/>',
  // A lamp.
  '<path class="l" d="M50 10V24M30 84H70"/><path class="r" d="M34 28H66L60 62H40Z"/><path class="l" d="M38 72H62"/>',
  // No mooring.
  '<circle class="l" cx="50" cy="50" r="38"/><path class="l" d="M24 24L76 76"/><circle ' +
    'class="g" cx="62" cy="36" r="7"/>',
  // A key.
  '<circle class="l" cx="30" cy="50" r="17"/><path class="l" d="M47 50H88V66M74 50V62"/>',
  // A bell.
  '<path class="g" d="M50 14C70 14 74 34 76 56L86 72H14L24 56C26 34 30 14 50 ' +
    '14Z"/><circle class="r" cx="50" cy="82" r="8"/>',
  // Drinking water.
  '<path class="b" d="M50 10C58 30 78 46 78 64A28 26 0 0 1 22 64C22 46 42 30 50 ' +
    '10Z"/><path class="k" d="M38 66A14 13 0 0 0 50 78"/>',
  // Two paddles.
  '<path class="l" d="M22 82L78 22M78 82L22 22"/><rect class="r" x="68" y="8" ' +
    'width="18" height="24" rx="5"/><rect class="r" x="14" y="8" width="18" height="24" ' +
    'rx="5"/>',
];

const FIELD = 100;
const COLUMNS = 4;
const PITCH = 150;
const MARGIN = 40;

/** The sheet of twelve lock signs, on a white ground of its own. */
export function lockSignsSvg(): string {
  const width = 2 * MARGIN + (COLUMNS - 1) * PITCH + FIELD;
  const height = 2 * MARGIN + (signs.length / COLUMNS - 1) * PITCH + FIELD;
  const placed = signs.map((sign, k) => {
    const [x, y] = [MARGIN + (k % COLUMNS) * PITCH, MARGIN + Math.floor(k / COLUMNS) * PITCH];
    return `<g id="sign-${k + 1}" transform="translate(${x} ${y})">${sign}</g>`;
  });
  const rules =
    `.g{fill:${green}}.r{fill:${red}}.b{fill:${blue}}` +
    `.l{fill:none;stroke:${green};stroke-width:9;stroke-linecap:round;stroke-linejoin:round}` +
    `.w{fill:none;stroke:${blue};stroke-width:8;stroke-linecap:round}` +
    '.k{fill:none;stroke:#fff;stroke-width:5;stroke-linecap:round}';
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}"><style>${rules}</style>` +
    `<rect width="${width}" height="${height}" fill="#ffffff"/>${placed.join('')}</svg>\n`
  );
}

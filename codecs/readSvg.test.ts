import { describe, expect, it } from 'vitest';
import { renderDrawing } from '../core/artwork/renderDrawing';
import { openSvg } from './readSvg';
import { renderSvgFile } from './renderSvg';

const SIZE = 240;
const bytes = (text: string) => new TextEncoder().encode(text);
const file = (inside: string, more = '') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ` +
  `width="${SIZE}" height="${SIZE}" viewBox="0 0 120 120"${more}>${inside}</svg>`;

/** Mean difference of the colours on white from what another program draws, code values. */
function difference(text: string): number {
  const { drawing } = openSvg(bytes(text), 'drawn.svg');
  const s = SIZE / drawing.widthPx;
  const ours = renderDrawing(drawing, { width: SIZE, height: SIZE, matrix: [s, 0, 0, s, 0, 0] });
  const theirs = renderSvgFile(text, SIZE, SIZE);
  const on = (data: Uint8Array, i: number, c: number) => 255 + ((data[i + c] - 255) * data[i + 3]) / 255;
  let sum = 0;
  for (let i = 0; i < ours.data.length; i += 4)
    for (let c = 0; c < 3; c++) sum += Math.abs(on(ours.data, i, c) - on(theirs.data, i, c));
  return sum / (SIZE * SIZE * 3);
}

describe('an SVG file is drawn as another program draws it', () => {
  it.each([
    [
      'a style sheet',
      file(
        '<style>.a{fill:#b5322b}#b{fill:teal;opacity:.5} rect.a{fill:navy}</style><circle ' +
          'class="a" cx="40" cy="40" r="30"/><rect class="a" x="60" y="60" width="40" ' +
          'height="30"/><path id="b" d="M5 90H60V110Z"/>',
      ),
    ],
    [
      'styles of its own',
      file(
        '<g style="fill:red;stroke:#003; stroke-width:4"><rect x="10" y="10" width="40" ' +
          'height="60" style="fill:none"/><circle cx="85" cy="60" r="20"/></g>',
      ),
    ],
    [
      'strokes with round ends',
      file(
        '<path d="M15 20C60 -10 60 120 105 60" fill="none" stroke="#1f5a45" stroke-width="9" ' +
          'stroke-linecap="round"/>',
      ),
    ],
    [
      'strokes with corners',
      file(
        '<path d="M15 100L60 15L105 100" fill="none" stroke="#000" stroke-width="10" ' +
          'stroke-linejoin="miter"/><polygon points="50,70 70,70 60,95" fill="none" ' +
          'stroke="red" stroke-width="3" stroke-linejoin="round"/>',
      ),
    ],
    [
      'dashes',
      file(
        '<path d="M10 60H110" stroke="#000" stroke-width="8" stroke-dasharray="12 6 ' +
          '3"/><circle cx="60" cy="60" r="40" fill="none" stroke="blue" stroke-width="3" ' +
          'stroke-dasharray="10"/>',
      ),
    ],
    [
      'a stroke under a leaning transform',
      file(
        '<g transform="translate(20 10) skewX(20) scale(1 1.6)"><circle cx="35" cy="30" ' +
          'r="22" fill="#fc0" stroke="#222" stroke-width="6"/></g>',
      ),
    ],
    [
      'what it uses',
      file(
        '<defs><symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5"/></symbol><g ' +
          'id="t"><rect width="20" height="12"/></g></defs><use href="#s" x="10" y="10" ' +
          'width="40" height="40" fill="green"/><use xlink:href="#t" transform="translate(60 ' +
          '70) rotate(20)" fill="purple"/>',
      ),
    ],
    [
      'a clip',
      file(
        '<clipPath id="c"><circle cx="60" cy="60" r="35"/></clipPath><g ' +
          'clip-path="url(#c)"><rect width="80" height="120" fill="#b5322b"/><rect x="80" ' +
          'width="40" height="70" fill="#1f5a45"/></g>',
      ),
    ],
    [
      'gradients by the shape',
      file(
        '<linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="1" ' +
          'stop-color="blue"/></linearGradient><radialGradient id="r" href="#g" cx=".3" ' +
          'cy=".3" r=".6"/><rect x="10" y="10" width="100" height="40" fill="url(#g)"/><circle ' +
          'cx="60" cy="85" r="28" fill="url(#r)"/>',
      ),
    ],
    [
      'rounded boxes, ellipses, lines',
      file(
        '<rect x="10" y="10" width="60" height="40" rx="12"/><ellipse cx="80" cy="85" ' +
          'rx="30" ry="18" fill="rgb(20%,40%,60%)"/><line x1="10" y1="70" x2="40" y2="110" ' +
          'stroke="orange" stroke-width="5"/>',
      ),
    ],
    ['even-odd holes', file('<path fill-rule="evenodd" d="M60 10L85 100L15 40H105L35 100Z" fill="#333"/>')],
    [
      'groups that are partly see-through',
      file(
        '<g opacity=".4"><rect x="10" y="10" width="50" height="50" fill="#000"/></g><rect ' +
          'x="70" y="70" width="40" height="40" fill="#00f8"/>',
      ),
    ],
  ])('with %s', (_, text) => expect(difference(text)).toBeLessThan(0.6));
});

describe('what an SVG file may not do', () => {
  const mark = '<rect x="10" y="10" width="50" height="50"/>';
  it('scripts, events, foreign content and files elsewhere are left out', () => {
    const text = file(
      `<script>alert(1)</script><foreignObject><b/></foreignObject><rect x="10" y="10" ` +
        `width="50" height="50" onclick="x()"/>` +
        `<use href="https://example.invalid/a.svg#b"/><image href="file:///etc/passwd"/><a ` +
        `href="javascript:x()">${mark}</a>`,
    );
    const { drawing, notes } = openSvg(bytes(text), 'odd.svg');
    expect(drawing.shapes).toHaveLength(2);
    expect(JSON.stringify(drawing)).not.toMatch(/script|passwd|example|onclick/);
    expect(notes.join()).toMatch(/another file.*picture/);
  });
  it.each([
    ['entities of its own', `<!DOCTYPE svg [<!ENTITY a "b">]>${file(mark)}`, /entities/],
    ['groups without end', file('<g>'.repeat(100) + mark + '</g>'.repeat(100)), /nested/],
    [
      'things that use themselves',
      file(`<g id="a"><use href="#a"/><use href="#a"/></g><use href="#a"/>`),
      /holds no|draws more/,
    ],
    ['a mask', file(`<mask id="m">${mark}</mask><g mask="url(#m)">${mark}</g>`), /masks/],
    ['nothing', file(''), /no filled shape/],
    ['letters that are none', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0', /damaged/],
    ['paths beyond reason', file('<path d="M0 0L1e30 5L4 4Z"/>'), /too far/],
  ])('%s is refused by name', (_, text, words) => {
    expect(() => openSvg(bytes(text), 'bad.svg')).toThrowError(words);
    expect(() => openSvg(bytes(text), 'bad.svg')).toThrowError(/bad\.svg/);
  });
  it('text without its typeface is told, and text whose typeface is at hand is drawn', () => {
    const { notes, drawing } = openSvg(
      bytes(
        file(
          `${mark}<text x="5" y="90" font-family="Nowhere Sans">ab</text><text x="5" y="110" ` +
            `font-family="Caveat, cursive" font-size="30">ab</text>`,
        ),
      ),
      't.svg',
    );
    expect(notes).toEqual(['it holds text whose typeface is not at hand, which was left out']);
    expect(drawing.shapes).toHaveLength(2);
  });
});

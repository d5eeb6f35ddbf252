import { PDFDocument, rgb } from '@cantoo/pdf-lib';
import { describe, expect, it } from 'vitest';
import { isCoreError } from '../core/errors';
import { seededRandom } from '../core/seededRandom';
import { pickFromPage, readPdfPage } from './readPdfPage';
import { openSvg } from './readSvg';

const MOST_MS = 30_000;
const text = (s: string) => new TextEncoder().encode(s);

/** Bytes put out of order as bad copies and bad people do. */
function garbled(bytes: Uint8Array, random: () => number): Uint8Array {
  const out = bytes.slice(0, random() < 0.3 ? Math.floor(random() * bytes.length) : bytes.length);
  const changes = Math.floor(random() * 12);
  for (let k = 0; k < changes; k++) out[Math.floor(random() * out.length)] = Math.floor(random() * 256);
  return out;
}

const drawn =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 ' +
  '100"><style>.a{fill:#123}</style><defs><g id="u"><rect width="9" height="9"/></g>' +
  '<linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient>' +
  '<clipPath id="c"><circle cx="50" cy="50" r="40"/></clipPath></defs><g clip-path="url(#c)" transform="rotate(9)">' +
  '<path class="a" d="M5 5C20 0 90 40 80 80Z" stroke="#000" stroke-width="3" ' +
  'stroke-dasharray="4 2"/><use href="#u" x="30"/>' +
  '<rect x="9" y="50" width="60" height="30" fill="url(#g)"/></g></svg>';
const shape = (inside: string) => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">${inside}</svg>`;

const evil: [string, string][] = [
  ['entities that grow', `<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>${shape('<text>&b;</text>')}`],
  ['a file of the machine', `<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>${shape('<text>&x;</text>')}`],
  [
    'uses of uses',
    shape(
      Array.from({ length: 20 }, (_, k) => `<g id="g${k}"><use href="#g${k + 1}"/><use href="#g${k + 1}"/></g>`).join(
        '',
      ) + '<rect id="g20" width="5" height="5"/><use href="#g0"/>',
    ),
  ],
  [
    'a clip of itself',
    shape(
      '<clipPath id="c" clip-path="url(#c)"><rect clip-path="url(#c)" width="9" ' +
        'height="9"/></clipPath><rect width="50" height="50" clip-path="url(#c)"/>',
    ),
  ],
  [
    'a gradient of itself',
    shape(
      '<linearGradient id="a" href="#b"/><linearGradient id="b" href="#a"/><rect ' +
        'width="50" height="50" fill="url(#a)"/>',
    ),
  ],
  ['dashes too short to count', shape('<path d="M0 0L99999 99999" stroke="#000" stroke-dasharray="0.000001"/>')],
  ['dashes of nothing', shape('<path d="M0 0L99 99" stroke="#000" stroke-dasharray="0 0"/>')],
  [
    'a pen wider than the world',
    shape('<path d="M0 0L99 99" stroke="#000" stroke-width="1e6" stroke-linecap="round"/>'),
  ],
  ['numbers without end', shape(`<path d="M0 0L${'9'.repeat(400)} 1Z"/>`)],
  ['very many shapes', shape('<path d="M0 0h9v9z"/>'.repeat(60_000))],
  ['a transform of nothing', shape('<g transform="scale(0)"><path d="M0 0h9v9z" stroke="#000"/></g>')],
  [
    'selectors to choke on',
    shape(`<style>${'a,'.repeat(20_000)}b{fill:red}${'{'.repeat(5000)}</style><rect width="9" ` + `height="9"/>`),
  ],
  [
    'scripts everywhere',
    shape('<script href="http://x.invalid"/><rect width="9" height="9" onload="a()" ' + 'fill="url(javascript:a())"/>'),
  ],
];

async function outcome(work: () => unknown): Promise<string> {
  const began = Date.now();
  let said = 'read';
  try {
    await work();
  } catch (error) {
    if (!isCoreError(error)) throw error;
    said = error.message;
  }
  expect(Date.now() - began).toBeLessThan(MOST_MS);
  return said;
}

describe('SVG files to be wary of', () => {
  it.each(evil)('%s: read or refused by name, in time', async (_, file) => {
    const said = await outcome(() => openSvg(text(file), 'evil.svg'));
    expect(said === 'read' || said.includes('evil.svg')).toBe(true);
  });
  it('eighty that were garbled on the way are read or refused by name', async () => {
    const random = seededRandom(41);
    const said = new Map<string, number>();
    for (let k = 0; k < 80; k++) {
      const one = await outcome(() => openSvg(garbled(text(drawn), random), 'bad.svg'));
      said.set(one === 'read' ? one : 'refused', (said.get(one === 'read' ? one : 'refused') ?? 0) + 1);
      if (one !== 'read') expect(one).toContain('bad.svg');
    }
    expect(said.get('read')).toBeGreaterThan(3);
    expect(said.get('refused')).toBeGreaterThan(20);
  });
});

describe('PDF files to be wary of', () => {
  it('eighty that were garbled on the way are read or refused by name', async () => {
    const pdf = await PDFDocument.create();
    const page = pdf.addPage([300, 200]);
    page.drawCircle({
      x: 100,
      y: 100,
      size: 40,
      color: rgb(0.7, 0.2, 0.15),
      borderWidth: 2,
      borderColor: rgb(0, 0, 0),
    });
    page.drawText('Words', { x: 20, y: 20, size: 12 });
    const bytes = await pdf.save({ useObjectStreams: false });
    const random = seededRandom(42);
    let [read, refused] = [0, 0];
    for (let k = 0; k < 80; k++) {
      const one = await outcome(async () =>
        pickFromPage(await readPdfPage(garbled(bytes, random), 'bad.pdf', 1), null),
      );
      if (one === 'read') read++;
      else {
        refused++;
        expect(one).toContain('bad.pdf');
      }
    }
    expect(read).toBeGreaterThan(3);
    expect(refused).toBeGreaterThan(3);
  }, 120_000);
});

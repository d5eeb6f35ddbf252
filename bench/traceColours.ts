// Emblems in a few flat colours: are the colours found, and is what is drawn what was seen.
import { renderDrawing } from '../core/artwork/renderDrawing';
import { scaling } from '../core/geometry/matrix';
import { hexFromRgb, rgbFromHex } from '../core/colour/hex';
import { deltaE, oklabFromSrgb } from '../core/colour/oklab';
import type { Raster } from '../core/raster/raster';
import { initialRecipe } from '../core/recipe/recipe';
import { runStages } from '../core/recipe/runRecipe';
import { seededRandom } from '../core/seededRandom';
import { artworkOfRaster } from '../core/artwork/artwork';
import { plainTrace } from '../core/trace/traceCoverage';
import { traceMaster } from '../core/trace/traceMaster';
import { toJpeg } from '../demo/capture';
import { compositeOn } from '../demo/render';
import { decodePicture } from '../codecs/decodePicture';
import { renderSvgFile } from '../codecs/renderSvg';

const SIZE = 800;

/** A made-up emblem: a plate with rings, wedges and small parts on it. */
export function emblem(seed: number): { svg: string; colours: string[] } {
  const random = seededRandom(seed);
  const between = (a: number, b: number) => a + (b - a) * random();
  const count = 2 + Math.floor(random() * 5);
  const colours: string[] = [];
  while (colours.length < count) {
    const hex = hexFromRgb([between(0, 235), between(0, 235), between(0, 235)]);
    const lab = oklabFromSrgb(...rgbFromHex(hex));
    if (colours.every((c) => deltaE(lab, oklabFromSrgb(...rgbFromHex(c))) > 14)) colours.push(hex);
  }
  const used = new Set<string>();
  const pick = () => {
    const free = colours.filter((c) => !used.has(c));
    const c = free.length > 0 ? free[Math.floor(random() * free.length)] : colours[Math.floor(random() * count)];
    used.add(c);
    return c;
  };
  const parts: string[] = [];
  const base = pick();
  parts.push(
    random() < 0.5
      ? `<circle cx="400" cy="400" r="${between(300, 370)}" fill="${base}"/>`
      : `<rect x="60" y="80" width="680" height="640" rx="${between(0, 120)}" fill="${base}"/>`,
  );
  for (let k = 0; k < count + 4; k++) {
    const [x, y, r, fill] = [between(200, 600), between(200, 600), between(24, 130), pick()];
    const kind = Math.floor(random() * 4);
    if (kind === 0) parts.push(`<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}"/>`);
    else if (kind === 1)
      parts.push(`<path d="M${x} ${y - r}L${x + r} ${y + r * 0.7}L${x - r} ${y + r * 0.5}Z" fill="${fill}"/>`);
    else if (kind === 2)
      parts.push(
        `<rect x="${x - r}" y="${y - r / 4}" width="${2 * r}" height="${r / 2}" ` +
          `fill="${fill}" transform="rotate(${between(0, 180)} ${x} ${y})"/>`,
      );
    else
      parts.push(
        `<path d="M${x - r} ${y}C${x - r} ${y - r * 1.4} ${x + r} ${y - r * 0.4} ${x + r} ` +
          `${y}S${x - r / 2} ${y + r} ${x - r} ${y}Z" fill="${fill}"/>`,
      );
  }
  return {
    svg:
      `<svg xmlns="http://www.w3.org/2000/svg" width="${SIZE}" height="${SIZE}" viewBox="0 ` +
      `0 ${SIZE} ${SIZE}">${parts.join('')}</svg>`,
    colours: colours.filter((c) => parts.some((p) => p.includes(c))),
  };
}

/** Colours that can still be seen somewhere. */
function visibleColours(picture: Raster, colours: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (let i = 0; i < picture.data.length; i += 4) {
    if (picture.data[i + 3] < 255) continue;
    const hex = hexFromRgb(picture.data.subarray(i, i + 3));
    counts.set(hex, (counts.get(hex) ?? 0) + 1);
  }
  return colours.filter((c) => (counts.get(c) ?? 0) > 60);
}

const SAME = 3;
function areRight(found: readonly string[], truth: readonly string[]): boolean {
  const lab = (hex: string) => oklabFromSrgb(...rgbFromHex(hex));
  return found.length === truth.length && truth.every((t) => found.some((f) => deltaE(lab(f), lab(t)) < SAME));
}

/** Share of the visible pixels whose colour on white, or alpha, is off by more than a quarter of the way. */
function wrongPixels(a: Raster, b: Raster): number {
  let [wrong, visible] = [0, 0];
  for (let i = 0; i < a.data.length; i += 4) {
    const [aa, ba] = [a.data[i + 3], b.data[i + 3]];
    if (aa === 0 && ba === 0) continue;
    visible++;
    let off = Math.abs(aa - ba);
    for (let c = 0; c < 3; c++) {
      const on = (v: number, alpha: number) => 255 + ((v - 255) * alpha) / 255;
      off = Math.max(off, Math.abs(on(a.data[i + c], aa) - on(b.data[i + c], ba)));
    }
    if (off > 64) wrong++;
  }
  return wrong / visible;
}

const seeds = Number(process.argv[2] ?? 20);
const first = Number(process.argv[3] ?? 1);
for (const way of ['png', 'jpeg 85'] as const) {
  let [right, slivers, wrong, ms, nodes] = [0, 0, 0, 0, 0];
  for (let seed = first; seed < first + seeds; seed++) {
    const { svg, colours } = emblem(seed);
    const truth = renderSvgFile(svg, SIZE, SIZE);
    let picture = truth;
    if (way !== 'png') {
      const { raster } = await decodePicture(await toJpeg(compositeOn(truth, [255, 255, 255]), 85), 'emblem.jpg');
      const { stages } = initialRecipe();
      picture = runStages(artworkOfRaster(raster), stages, { pictureKey: `${seed}`, pictureOnly: true }).master.raster;
    }
    const began = performance.now();
    const { layers, drawing } = traceMaster(picture, { ...plainTrace, colours: null });
    ms += performance.now() - began;
    const known = visibleColours(truth, colours);
    const found = layers.map((l) => l.hex);
    const isRight = areRight(found, known);
    if (isRight) right++;
    else console.log(`  ${way} ${seed}: ${known.join(' ')} found ${found.join(' ')}`);
    slivers += layers.flatMap((l) => l.traced.rings).filter((r) => Math.abs(r.area2) / 2 < 12).length;
    nodes += layers.reduce((n, l) => n + l.traced.nodes, 0);
    const back = renderDrawing(drawing, { width: SIZE, height: SIZE, matrix: scaling(1) });
    const w = wrongPixels(back, truth);
    if (w > 0.003) console.log(`  ${way} ${seed}: wrong ${(w * 100).toFixed(2)} %`);
    wrong += w;
  }
  console.log(
    `${way}: colours right ${right} of ${seeds}, slivers ${slivers}, wrong pixels ` +
      `${((wrong / seeds) * 100).toFixed(3)} %, ` +
      `${Math.round(nodes / seeds)} nodes, ${(((ms / seeds) * 1e6) / (SIZE * SIZE)).toFixed(0)} ms/MP`,
  );
}

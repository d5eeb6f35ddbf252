// npx tsx demo/startPictures.ts: the pictures of the three ways in, before and after, from the demo scenario.
import { mkdirSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { decodePicture } from '../codecs/decodePicture';
import { artworkOfRaster } from '../core/artwork/artwork';
import { layOnGround } from '../core/placements/layOnGround';
import { cropRaster } from '../core/raster/cropRaster';
import { findExtents } from '../core/raster/extents';
import { layOn } from '../core/raster/flatten';
import { type Raster, createRaster } from '../core/raster/raster';
import { resizeRaster } from '../core/raster/resize';
import type { Rgb } from '../core/colour/hex';
import { proposeRecipe } from '../core/recipe/proposeRecipe';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { inOneColour } from '../core/layers/layers';
import { matteOf } from '../core/raster/raster';
import { drawLogos, drawSignatures } from './scenario';
import { textPath, textWidth } from './text';
import { renderSvg } from './render';
import { palette } from './palette';

const OUT = new URL('../web/screens/marks/start/', import.meta.url).pathname;
const [WIDTH, HEIGHT] = [560, 300];
const HALF = WIDTH / 2;
const DARK: Rgb = [28, 27, 29];

const inside = (r: Raster, width: number, height: number): Raster => {
  const scale = Math.min(width / r.width, height / r.height);
  return resizeRaster(r, Math.round(r.width * scale), Math.round(r.height * scale));
};
const put = (page: Raster, r: Raster, left: number) =>
  layOnGround(
    page,
    r,
    { x: left + Math.round((HALF - r.width) / 2), y: Math.round((HEIGHT - r.height) / 2) },
    { opacity: 1, mode: 'normal' },
  );

/** The left half as it came, the right half as it is then. */
async function write(name: string, ground: Rgb, before: Raster, after: Raster, on: Rgb = DARK): Promise<void> {
  const page = layOn(createRaster(WIDTH, HEIGHT), ground);
  const right = layOn(createRaster(HALF, HEIGHT), on);
  layOnGround(page, right, { x: HALF, y: 0 }, { opacity: 1, mode: 'normal' });
  put(page, before, 0);
  put(page, after, HALF);
  const raw = { raw: { width: WIDTH, height: HEIGHT, channels: 4 as const } };
  writeFileSync(`${OUT}${name}.webp`, await sharp(page.data, raw).removeAlpha().webp({ quality: 88 }).toBuffer());
}

function masterOf(raster: Raster): Raster {
  const { result } = proposeRecipe(artworkOfRaster(raster), 1, inspectPicture(raster).way);
  const own = (result as NonNullable<typeof result>).master.raster;
  return cropRaster(own, findExtents(own) ?? { x: 0, y: 0, width: own.width, height: own.height });
}

mkdirSync(OUT, { recursive: true });
const open = async (bytes: Uint8Array, name: string, most = 900_000) => (await decodePicture(bytes, name, most)).raster;
const logos = await drawLogos();
const badge = logos.find((m) => m.id === 'badge') as (typeof logos)[0];
const logo = await open(badge.bytes, badge.fileName);
await write(
  'logo',
  [244, 239, 228],
  inside(logo, HALF, HEIGHT),
  inside(masterOf(logo), HALF - 50, HEIGHT - 50),
  [186, 206, 219],
);

const signatures = await drawSignatures();
const pencil = signatures.find((m) => m.id === 'pencil') as (typeof signatures)[0];
const sheet = await open(pencil.bytes, pencil.fileName);
const ink = masterOf(sheet);
const white = inOneColour(ink, matteOf(ink).data, '#ffffff');
const cover = cropRaster(resizeRaster(sheet, Math.round((sheet.width * HEIGHT) / sheet.height), HEIGHT), {
  ...{ x: 70, y: 0, width: HALF, height: HEIGHT },
});
await write('signature', [243, 234, 212], cover, inside(white, HALF - 40, HEIGHT - 60));

const words = (fill: string) => {
  const width = textWidth('Odile Farrant', 'script', 90);
  return renderSvg(
    `<path d="${textPath('Odile Farrant', 'script', 90, 20, 90)}" fill="${fill}"/>`,
    Math.ceil(width) + 40,
    130,
  );
};
await write(
  'drawn',
  [250, 250, 250],
  inside(words('#21409a'), HALF - 30, HEIGHT),
  inside(words(palette.enamelCream), HALF - 30, HEIGHT),
);

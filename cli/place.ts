import { mkdirSync, readdirSync } from 'node:fs';
import { basename, extname, join, parse } from 'node:path';
import sharp from 'sharp';
import { fromRaw, decodePicture } from '../codecs/decodePicture';
import { encodePng } from '../codecs/encodePng';
import { readColour } from '../core/colour/readColour';
import { markAtWidth } from '../core/contrast/placeMark';
import { bestStanding, measureStanding, outlineMark } from '../core/contrast/standing';
import { CoreError } from '../core/errors';
import type { Artwork } from '../core/artwork/artwork';
import { extentsOf } from '../core/artwork/extentsOf';
import type { Extent } from '../core/sizes/size';
import { layOnGround } from '../core/placements/layOnGround';
import { ANCHORS, type Anchor, type Length, type Place, countGaps, placeBox } from '../core/placements/placement';
import { type Raster, createRaster } from '../core/raster/raster';
import { type Variant, readVariant } from '../core/recipe/recipe';
import { type Command, isFolder, naming, readArguments, readInput, readNumber, writeWhole } from './command';
import { type OpenMaster, drawVariant, openMaster } from './masterOf';
import { readJsonFile } from './readJsonFile';
import { readSet } from './variants';

const help = `tassel place GROUND|FOLDER --mark MASTER … --out FILE|FOLDER [options]

Puts marks on photos, or on an exact frame: GROUND is a photo, a folder of them, or
WxH[:colour], clear without a colour. A photo is never written over.

  --variant auto|black|reversed|colour|FILE.json
                   auto, at first, takes of black, reversed and colour the one that
                   stands out most on this ground
  --at ANCHOR|X,Y  upper-left, upper, upper-right, left, centre, right, lower-left,
                   lower, lower-right (at first); or the middle of the mark, px
  --inset 4%|PX    from the mark to the edges; % of the ground's shorter side
  --size 18%|PX    width of the mark; % of the ground's width
  --opacity 0..1   1 at first
  --quality N      of JPEG files, 40 to 100; 92 at first
  --report R.json  what was done on every ground, with contrast and gaps

Written as the ending says: png, jpg, webp, tif; of a folder as each photo is.`;

const ENDINGS = ['.png', '.jpg', '.jpeg', '.webp', '.tif', '.tiff'];
const PHOTOS = /\.(png|jpe?g|webp|tiff?)$/i;

interface DrawnVariant {
  readonly name: string;
  readonly artwork: Artwork;
  readonly extents: Extent;
}
/** A mark in the variant to use, or in several of which the best is taken; drawn once for all grounds. */
type DrawnMark = readonly DrawnVariant[];

interface Job {
  readonly marks: readonly DrawnMark[];
  readonly place: Place;
  readonly opacity: number;
  readonly quality: number;
}

export const place: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, {
      mark: { type: 'string', multiple: true },
      out: { type: 'string' },
      variant: { type: 'string' },
      at: { type: 'string' },
      inset: { type: 'string' },
      size: { type: 'string' },
      opacity: { type: 'string' },
      quality: { type: 'string' },
      report: { type: 'string' },
    });
    if (positionals.length === 0) throw new CoreError('cli/usage', 'place takes a ground.');
    if (!values.mark || !values.out) throw new CoreError('cli/usage', 'place needs --mark and --out.');
    const variants = readVariants(values.variant ?? 'auto');
    const marks: DrawnMark[] = [];
    // More words after the first mark are marks too.
    for (const path of [...values.mark, ...positionals.slice(1)])
      marks.push(await naming(basename(path), async () => drawAll(await openMaster(path), variants)));
    const job: Job = {
      marks,
      place: {
        at: readAnchor(values.at ?? 'lower-right'),
        inset: readLength(values.inset ?? '4%', 'inset', 0),
        size: readLength(values.size ?? '18%', 'size', 0.01),
      },
      opacity: values.opacity === undefined ? 1 : readNumber(values.opacity, 'opacity', 0, 1),
      quality: values.quality === undefined ? 92 : readNumber(values.quality, 'quality', 40, 100),
    };
    const report = [];
    for (const { ground, out } of targetsOf(positionals[0], values.out))
      report.push(await naming(basename(ground), () => placeOn(ground, out, job)));
    if (values.report) writeWhole(values.report, `${JSON.stringify(report, null, 2)}\n`);
    return 0;
  },
};

/** Grounds with where each result goes. @throws CoreError 'cli/usage' where a photo would be written over */
function targetsOf(ground: string, out: string): { ground: string; out: string }[] {
  if (!isFolder(ground)) {
    if (!ENDINGS.includes(extname(out).toLowerCase()))
      throw new CoreError('cli/usage', `--out ends in one of ${ENDINGS.join(', ')}, got "${out}".`);
    if (ground === out) throw new CoreError('cli/usage', `${ground} would be written over. Choose another --out.`);
    return [{ ground, out }];
  }
  const photos = readdirSync(ground)
    .filter((name) => PHOTOS.test(name))
    .sort();
  if (photos.length === 0) throw new CoreError('file/not-readable', `${ground} holds no photos.`);
  if (join(ground) === join(out))
    throw new CoreError('cli/usage', `Photos of ${ground} would be written over. Choose another --out.`);
  mkdirSync(out, { recursive: true });
  return photos.map((name) => ({ ground: join(ground, name), out: join(out, name) }));
}

function readVariants(text: string): Variant[] {
  if (text === 'auto') return readSet('black,reversed,colour');
  return text.endsWith('.json') ? [readVariant(readJsonFile(text), text)] : readSet(text);
}

function readAnchor(text: string): Place['at'] {
  if (ANCHORS.includes(text as Anchor)) return text as Anchor;
  const [x, y, ...rest] = text.split(',').map(Number);
  if (rest.length || !Number.isFinite(x) || !Number.isFinite(y))
    throw new CoreError('cli/usage', `--at takes ${ANCHORS.join(', ')} or X,Y, got "${text}".`);
  return { x, y };
}

function readLength(text: string, option: string, least: number): Length {
  const isShare = text.endsWith('%');
  const value = readNumber(isShare ? text.slice(0, -1) : text, option, least, isShare ? 100 : 32_000);
  return { value, unit: isShare ? 'pct' : 'px' };
}

/** A photo's pixels, upright and in sRGB, or a frame of one colour or none. */
async function openGround(text: string): Promise<{ raster: Raster; isClear: boolean }> {
  const frame = /^(\d{1,5})x(\d{1,5})(?::(.+))?$/.exec(text);
  if (!frame) return { raster: (await decodePicture(readInput(text), basename(text))).raster, isClear: false };
  const [width, height] = [Number(frame[1]), Number(frame[2])];
  if (Math.min(width, height) < 8 || Math.max(width, height) > 16_384)
    throw new CoreError('cli/usage', `A frame has sides of 8 to 16384 px, got "${text}".`);
  const out = createRaster(width, height);
  if (frame[3] === undefined) return { raster: out, isClear: true };
  const hex = readColour(frame[3]);
  if (!hex) throw new CoreError('cli/usage', `"${frame[3]}" is no colour.`);
  const pixel = Buffer.from(`${hex.slice(1)}ff`, 'hex');
  for (let p = 0; p < out.data.length; p += 4) out.data.set(pixel, p);
  return { raster: out, isClear: false };
}

function drawAll(master: OpenMaster, variants: readonly Variant[]): DrawnMark {
  return variants.map((variant) => {
    const artwork = drawVariant(master, variant, variant.name);
    const extents = extentsOf(artwork);
    if (!extents) throw new CoreError('cutout/nothing-left', `Nothing is visible of the variant "${variant.name}".`);
    return { name: variant.name, artwork, extents };
  });
}

async function placeOn(path: string, out: string, job: Job) {
  const { raster: ground, isClear } = await openGround(path);
  const items = job.marks.map((mark) => layOne(ground, isClear, mark, job));
  const bytes = await encode(ground, out, job.quality);
  const back = await sharp(bytes).metadata();
  if (back.width !== ground.width || back.height !== ground.height)
    throw new CoreError('file/read-back', `${out} did not read back as written.`, { file: out });
  writeWhole(out, bytes);
  return { ground: path, out, gaps: countGaps(ground), items };
}

function layOne(ground: Raster, isClear: boolean, mark: DrawnMark, { place: where, opacity }: Job) {
  const all = mark.map(({ name, artwork, extents }) => {
    const box = placeBox(ground, extents, where);
    const raster = markAtWidth(artwork, box.width);
    // On a clear frame there is nothing to stand out from.
    const standing = isClear ? null : measureStanding(outlineMark(raster), ground, box);
    return { name, raster, box: { ...box, height: raster.height }, standing };
  });
  const measured = all.flatMap((c) => c.standing ?? []);
  const best = all[measured.length > 0 ? bestStanding(measured) : 0];
  layOnGround(ground, best.raster, best.box, { opacity, mode: 'normal' });
  const { ratio, shareAbove3 } = best.standing ?? { ratio: 1, shareAbove3: 0 };
  const round = (v: number) => Math.round(v * 1000) / 1000;
  return { variant: best.name, contrast: round(ratio), shareAbove3: round(shareAbove3), box: best.box };
}

function encode(raster: Raster, out: string, quality: number): Promise<Buffer> {
  const ending = extname(parse(out).base).toLowerCase();
  if (ending === '.png') return encodePng(raster);
  const picture = fromRaw(raster).withIccProfile('srgb');
  if (ending === '.webp') return picture.webp({ lossless: true }).toBuffer();
  if (ending.startsWith('.tif')) return picture.tiff({ compression: 'lzw' }).toBuffer();
  return picture.flatten({ background: '#ffffff' }).jpeg({ quality, chromaSubsampling: '4:4:4' }).toBuffer();
}

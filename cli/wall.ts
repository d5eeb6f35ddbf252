import { mkdirSync, readdirSync } from 'node:fs';
import { extname, join, parse } from 'node:path';
import { MOST_PIXELS, checkFile, decodePicture } from '../codecs/decodePicture';
import { encodePng } from '../codecs/encodePng';
import { readSvg } from '../codecs/readSvg';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { type Rgb, rgbFromHex } from '../core/colour/hex';
import { CoreError } from '../core/errors';
import { uniqueNames } from '../core/recipe/fileNames';
import { resizeRaster } from '../core/raster/resize';
import { type AuditedLogo, type WallProblem, auditLogo, isSameMark } from '../core/wall/auditLogo';
import { drawSlot, drawWall, wallExtent } from '../core/wall/drawWall';
import { type Slot, levelWall } from '../core/wall/levelWall';
import { measureOptics } from '../core/wall/opticalSize';
import { readColour } from './settingOptions';
import { type Command, isFolder, naming, readArguments, readInput, readNumber, writeWhole } from './command';

const help = `tassel wall FOLDER --slot WxH --out FOLDER [options]

Looks at the logos of a folder for a wall of equal slots, says what is wrong with each, brings
them to equal optical size and writes one clear PNG a slot under the name of its file, at 1x
and 2x, and the whole wall as wall.png.

  --slot 360x180    size of a slot, px
  --padding 10%     free on every side: % of the slot's shorter side, or px (10 %)
  --level 0..1      from filling the slot's box to equal optical size (1)
  --ground COLOUR   of the wall, as #rrggbb (#ffffff)
  --json            one JSON list: { file, problems, scale, opticalSizeBefore, opticalSizeAfter };
                    problems: white-box, fringe, enlarged, margins, stretched, lost, duplicate`;

const options = {
  slot: { type: 'string' },
  padding: { type: 'string' },
  level: { type: 'string' },
  ground: { type: 'string' },
  out: { type: 'string' },
  json: { type: 'boolean' },
} as const;

const MOST_SLOT = 8192;
const MOST_FILES = 500;
const WALL_NAME = 'wall.png';
const ENDINGS = ['.png', '.jpg', '.jpeg', '.webp', '.gif', '.avif', '.tif', '.tiff', '.svg'];
/** Drawings are looked at at the size of this many slots. */
const DRAWN_AT = 2;

export const wall: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, options);
    if (positionals.length !== 1) throw new CoreError('cli/usage', `wall takes one folder, got ${positionals.length}.`);
    if (!values.out) throw new CoreError('cli/usage', 'wall needs --out.');
    const slot = readSlot(values.slot, values.padding);
    const level = values.level === undefined ? 1 : readNumber(values.level, 'level', 0, 1);
    const ground = rgbFromHex(readColour(values.ground ?? '#ffffff', 'ground'));
    const logos = await openAll(positionals[0], slot, ground);
    const placed = levelWall(
      logos.map(({ mark }) => ({ width: mark.width, height: mark.height, optics: measureOptics(mark) })),
      slot,
      level,
    );
    const once = logos.map(({ mark }, k) => drawSlot(mark, placed[k], slot, 1));
    const whole = await encodePng(drawWall(once, slot, ground));
    // Under the names of the files they replace; two of one name, or one called as the wall is, get a number.
    const [wallName, ...names] = uniqueNames([
      WALL_NAME,
      ...logos.flatMap(({ file }) => ['', '@2x'].map((size) => `${parse(file).name}${size}.png`)),
    ]);
    mkdirSync(values.out, { recursive: true });
    writeWhole(join(values.out, wallName), whole);
    for (const [k, { mark }] of logos.entries()) {
      writeWhole(join(values.out, names[2 * k]), await encodePng(once[k]));
      writeWhole(join(values.out, names[2 * k + 1]), await encodePng(drawSlot(mark, placed[k], slot, 2)));
    }
    const report = logos.map(({ file, problems }, k) => ({
      file,
      problems,
      scale: round(placed[k].scale),
      opticalSizeBefore: round(placed[k].opticalSizeBefore),
      opticalSizeAfter: round(placed[k].opticalSizeAfter),
    }));
    if (values.json) console.log(JSON.stringify(report, null, 2));
    else for (const r of report) console.log(`${r.file.padEnd(32)}${r.problems.join(', ') || 'sound'}`);
    return 0;
  },
};

const round = (v: number) => Math.round(v * 1000) / 1000;

function readSlot(text: string | undefined, padding = '10%'): Slot {
  const size = /^(\d{1,5})x(\d{1,5})$/.exec(text ?? '');
  if (!size) throw new CoreError('cli/usage', `--slot takes a size such as 360x180, got "${text ?? ''}".`);
  const [width, height] = [Number(size[1]), Number(size[2])];
  if (Math.min(width, height) < 8 || Math.max(width, height) > MOST_SLOT)
    throw new CoreError('cli/usage', `--slot takes sides from 8 to ${MOST_SLOT} px, got "${text}".`);
  const free = /^(\d+(?:\.\d+)?)(%|px)?$/.exec(padding);
  const shorter = Math.min(width, height);
  const px = free ? (free[2] === '%' ? (Number(free[1]) / 100) * shorter : Number(free[1])) : Number.NaN;
  if (!(px >= 0 && px < shorter / 2))
    throw new CoreError(
      'cli/usage',
      `--padding takes less than half of the slot, such as 10% or 12px, got "${padding}".`,
    );
  return { width, height, padding: px };
}

interface WallLogo extends AuditedLogo {
  readonly file: string;
}

async function openAll(folder: string, slot: Slot, ground: Rgb): Promise<WallLogo[]> {
  if (!isFolder(folder)) throw new CoreError('file/not-readable', `${folder} is no folder.`, { file: folder });
  const names = readdirSync(folder)
    .filter((n) => ENDINGS.includes(extname(n).toLowerCase()))
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  if (names.length === 0) throw new CoreError('file/not-readable', `${folder} holds no pictures.`, { file: folder });
  if (names.length > MOST_FILES)
    throw new CoreError('file/not-readable', `${folder} holds ${names.length} pictures; a wall takes ${MOST_FILES}.`, {
      file: folder,
    });
  const { width, height } = wallExtent(names.length, slot);
  if (width * height > MOST_PIXELS)
    throw new CoreError(
      'cli/usage',
      `A wall of ${names.length} such slots would be ${width} × ${height} px; take a smaller --slot.`,
    );
  const room = { width: slot.width - 2 * slot.padding, height: slot.height - 2 * slot.padding };
  const found: WallLogo[] = [];
  for (const file of names) {
    const { raster, drawing } = await naming(file, () => open(readInput(join(folder, file)), file, slot));
    const looked = auditLogo(raster, { room, ground, isDrawn: drawing !== null });
    const isCopy = found.some((other) => isSameMark(other.mark, looked.mark));
    const problems: WallProblem[] = [...looked.problems, ...(isCopy ? (['duplicate'] as const) : [])];
    found.push({ file, mark: looked.mark, problems });
  }
  return found;
}

async function open(bytes: Uint8Array, name: string, slot: Slot): Promise<Artwork> {
  if (checkFile(bytes, name).id !== 'svg') return artworkOfRaster((await decodePicture(bytes, name)).raster);
  const drawing = readSvg(bytes, name);
  const scale = (DRAWN_AT * Math.max(slot.width, slot.height)) / Math.max(drawing.widthPx, drawing.heightPx);
  const whole = artworkOfDrawing(drawing);
  const side = (px: number) => Math.max(1, Math.round(px * scale));
  if (scale >= 1) return whole;
  return { ...whole, raster: resizeRaster(whole.raster, side(drawing.widthPx), side(drawing.heightPx)) };
}

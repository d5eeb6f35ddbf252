import { mkdirSync, readdirSync } from 'node:fs';
import { extname, join, parse } from 'node:path';
import { MOST_PIXELS, checkFile, decodePicture } from '../codecs/decodePicture';
import { readSvg } from '../codecs/readSvg';
import { wallFiles } from '../codecs/wallFiles';
import { type Artwork, artworkOfDrawing, artworkOfRaster } from '../core/artwork/artwork';
import { type Rgb, rgbFromHex } from '../core/colour/hex';
import { CoreError } from '../core/errors';
import { resizeRaster } from '../core/raster/resize';
import { type AuditedLogo, auditLogo } from '../core/wall/auditLogo';
import { type MarkLook, copiesAmong, lookOfMark } from '../core/wall/copies';
import { wallExtent } from '../core/wall/drawWall';
import { levelWall } from '../core/wall/levelWall';
import { measureOptics } from '../core/wall/opticalSize';
import {
  LEAST_SIDE,
  MOST_SIDE,
  type Slot,
  USUAL_WALL,
  leavesRoom,
  parsePadding,
  parseSlotSize,
  roomOf,
  slotOf,
} from '../core/wall/wallRule';
import { readColour } from './settingOptions';
import { type Command, isFolder, naming, readArguments, readInput, readNumber, writeWhole } from './command';

const help = `tassel wall FOLDER --slot WxH --out FOLDER [options]

Looks at the logos of a folder for a wall of equal slots, says what is wrong with each, brings
them to equal optical size and writes one clear PNG a slot under the name of its file, at 1x
and 2x, its paths as SVG where there are any, and the whole wall as wall.png, wall.html and
wall.pdf.

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

const MOST_FILES = 500;
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
    const places = logos.map(({ file, artwork }, k) => ({ file, title: parse(file).name, artwork, box: placed[k] }));
    const files = await wallFiles({ title: 'Wall', slot, ground, places });
    mkdirSync(values.out, { recursive: true });
    for (const { name, bytes } of files) writeWhole(join(values.out, name), bytes);
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

function readSlot(text = '', padding = '10%'): Slot {
  const size = parseSlotSize(text);
  if (!size) throw new CoreError('cli/usage', `--slot takes a size such as 360x180, got "${text}".`);
  if (Math.min(size.widthPx, size.heightPx) < LEAST_SIDE || Math.max(size.widthPx, size.heightPx) > MOST_SIDE)
    throw new CoreError('cli/usage', `--slot takes sides from ${LEAST_SIDE} to ${MOST_SIDE} px, got "${text}".`);
  const free = parsePadding(padding);
  const rule = free && { ...USUAL_WALL, ...size, padding: free };
  if (!rule || !leavesRoom(rule))
    throw new CoreError(
      'cli/usage',
      `--padding takes less than half of the slot, such as 10% or 12px, got "${padding}".`,
    );
  return slotOf(rule);
}

interface WallLogo extends AuditedLogo {
  readonly file: string;
  readonly look: MarkLook;
  /** The mark alone; paths where the file holds them. */
  readonly artwork: Artwork;
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
  const room = roomOf(slot);
  const found: WallLogo[] = [];
  for (const file of names) {
    const { raster, drawing } = await naming(file, () => open(readInput(join(folder, file)), file, slot));
    const looked = auditLogo(raster, { room, ground, isDrawn: drawing !== null });
    const artwork = drawing ? artworkOfDrawing(drawing) : artworkOfRaster(looked.mark);
    found.push({ ...looked, file, look: lookOfMark(looked.mark), artwork });
  }
  const isCopy = copiesAmong(
    found.map(({ file, look, problems, artwork }) => ({
      ...{ file, look, problems: problems.length, isDrawn: artwork.drawing !== null },
    })),
  );
  return found.map((f, k) => (isCopy[k] ? { ...f, problems: [...f.problems, 'duplicate' as const] } : f));
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

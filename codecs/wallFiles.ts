import { type Rgb, hexFromRgb } from '../core/colour/hex';
import { paintOnPage } from '../core/formats/pdf';
import { printSvg } from '../core/formats/svg';
import type { Raster } from '../core/raster/raster';
import { uniqueNames } from '../core/recipe/fileNames';
import { type SlotBox, type SlotMark, drawSlot, slotDrawing } from '../core/wall/drawSlot';
import { coverBox, drawWall, slotCorner, wallExtent } from '../core/wall/drawWall';
import type { Slot } from '../core/wall/wallRule';
import { lookAt } from './check/lookAt';
import { fromRaw } from './decodePicture';
import { encodePng } from './encodePng';
import { readBackPng } from './readBackPng';
import { readBackSvg } from './readBackSvg';

/** A mark of a wall where it stands. */
export interface WallPlace extends SlotMark {
  /** The file that it replaces. */
  readonly file: string;
  /** What it shows, for whoever does not see it. */
  readonly title: string;
  readonly box: SlotBox;
}

export interface WallPlan {
  readonly title: string;
  readonly slot: Slot;
  readonly ground: Rgb | Raster;
  readonly places: readonly WallPlace[];
}

export interface MadeFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** What a slot is written as: once and twice its size, and its paths where there are any. */
interface SlotFiles {
  readonly once: Raster;
  readonly files: readonly (MadeFile & { readonly kind: 'once' | 'twice' | 'paths' })[];
}

/** Files whose names are the wall's own. */
const WALL = { picture: 'wall.png', page: 'wall.html', print: 'wall.pdf', photo: 'wall-ground.jpg' };

/** What stands before a name's ending, without folders and what file systems do not take. */
export function stemOf(file: string): string {
  const own = file.replace(/^.*[\\/]/, '').replace(/\.[^.]*$/, '');
  return own.replace(/[\p{Cc}<>:"|?*\\/]+/gu, '-').replace(/^[. ]+|[. ]+$/g, '') || 'logo';
}

/**
 * Every slot as PNG at once and twice its size, and as SVG where there are paths, under the names of the files that
 * they replace; the wall as one picture, as a page with the files, and as PDF. Each is read back by a reader that
 * shares no code with its writer.
 * @throws CoreError 'file/read-back' naming the file
 */
export async function wallFiles(plan: WallPlan): Promise<MadeFile[]> {
  const { places } = plan;
  // Two of one name, or one called as the wall is, get a number.
  const own = [...new Set(Object.values(WALL).map(stemOf))];
  const stems = uniqueNames([...own, ...places.map((p) => stemOf(p.file))].map((s) => `${s}.x`))
    .slice(own.length)
    .map((s) => s.slice(0, -2));
  const slots: SlotFiles[] = [];
  for (const [k, place] of places.entries()) slots.push(await writeSlot(place, plan.slot, stems[k]));
  const pictures = slots.map((s) => s.once);
  const large = slots.map((s) => fileOf(s, 'twice') as MadeFile);
  const photo =
    'data' in plan.ground ? [{ name: WALL.photo, bytes: await jpegOf(coverBox(plan.ground, plan.slot)) }] : [];
  return [
    ...slots.flatMap(({ files }) => files.map(({ name, bytes }) => ({ name, bytes }))),
    await writePicture(plan, pictures),
    { name: WALL.page, bytes: new TextEncoder().encode(wallPage(plan, slots)) },
    await writePdf(plan, large),
    ...photo,
  ];
}

/** Every slot as a picture of twice its size. */
export async function slotPictures({ places, slot }: WallPlan): Promise<MadeFile[]> {
  const made = [];
  for (const place of places)
    made.push({ name: place.file, bytes: await encodePng(drawSlot(place, place.box, slot, 2)) });
  return made;
}

/** The wall as one picture. */
export const wallPicture = ({ places, ...plan }: WallPlan): Promise<MadeFile> =>
  writePicture(
    plan,
    places.map((p) => drawSlot(p, p.box, plan.slot, 1)),
  );

/** The wall as PDF alone. */
export async function wallPdf(plan: WallPlan): Promise<MadeFile> {
  const large = [];
  for (const place of plan.places) {
    const bytes = slotDrawing(place, place.box, plan.slot)
      ? null
      : await encodePng(drawSlot(place, place.box, plan.slot, 2));
    large.push({ name: place.file, bytes: bytes ?? new Uint8Array(0) });
  }
  return writePdf(plan, large);
}

async function writePicture(
  { slot, ground }: Omit<WallPlan, 'places'>,
  pictures: readonly Raster[],
): Promise<MadeFile> {
  const picture = drawWall(pictures, slot, ground);
  const bytes = await encodePng(picture, null, { isOpaque: true });
  readBackPng(bytes, picture, WALL.picture);
  return { name: WALL.picture, bytes };
}

async function writePdf(plan: WallPlan, large: readonly MadeFile[]): Promise<MadeFile> {
  const bytes = await drawPdf(plan, large);
  await lookAt(bytes, WALL.print);
  return { name: WALL.print, bytes };
}

async function writeSlot(place: WallPlace, slot: Slot, stem: string): Promise<SlotFiles> {
  const [once, twice] = [drawSlot(place, place.box, slot, 1), drawSlot(place, place.box, slot, 2)];
  const png = async (raster: Raster, name: string) => {
    const bytes = await encodePng(raster);
    readBackPng(bytes, raster, name);
    return { name, bytes };
  };
  const drawing = slotDrawing(place, place.box, slot);
  const files: SlotFiles['files'][number][] = [
    { kind: 'once', ...(await png(once, `${stem}.png`)) },
    { kind: 'twice', ...(await png(twice, `${stem}@2x.png`)) },
  ];
  if (drawing) {
    const page = { widthPx: slot.width, heightPx: slot.height, ppi: null };
    const bytes = new TextEncoder().encode(printSvg(drawing, page));
    readBackSvg(bytes, `${stem}.svg`);
    files.push({ kind: 'paths', name: `${stem}.svg`, bytes });
  }
  return { once, files };
}

const jpegOf = (raster: Raster): Promise<Uint8Array> =>
  fromRaw(raster).removeAlpha().jpeg({ quality: 92 }).toBuffer() as Promise<Uint8Array>;

/** A point is three quarters of a style sheet's pixel. */
const POINTS = 0.75;

/** @param large  each slot's picture at twice its size; not looked at where there are paths */
async function drawPdf({ slot, ground, places }: WallPlan, large: readonly MadeFile[]): Promise<Uint8Array> {
  const lib = await import('@cantoo/pdf-lib');
  const document = await lib.PDFDocument.create({ updateMetadata: false });
  const extent = wallExtent(places.length, slot);
  const [width, height] = [extent.width * POINTS, extent.height * POINTS];
  const page = document.addPage([width, height]);
  const photo = 'data' in ground ? await document.embedJpg(await jpegOf(coverBox(ground, slot))) : null;
  if (!('data' in ground)) {
    const [r, g, b] = ground.map((v) => v / 255);
    page.drawRectangle({ x: 0, y: 0, width, height, color: lib.rgb(r, g, b) });
  }
  for (const [k, place] of places.entries()) {
    const { x, y } = slotCorner(k, extent.columns, slot);
    const at = {
      ...{ x: x * POINTS, y: height - (y + slot.height) * POINTS },
      ...{ width: slot.width * POINTS, height: slot.height * POINTS },
    };
    if (photo) page.drawImage(photo, at);
    const drawing = slotDrawing(place, place.box, slot);
    const matrix = [POINTS, 0, 0, -POINTS, x * POINTS, height - y * POINTS] as const;
    if (drawing) paintOnPage(drawing, { lib, document, page, matrix });
    else page.drawImage(await document.embedPng(large[k].bytes), at);
  }
  return document.save({ useObjectStreams: false });
}

const fileOf = ({ files }: SlotFiles, kind: string) => files.find((f) => f.kind === kind);

const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.codePointAt(0)};`).replace(/\p{Cc}/gu, ' ');
const address = (name: string) => escaped(encodeURIComponent(name));

/** The wall as a page that shows its files. */
function wallPage({ title, slot, ground, places }: WallPlan, slots: readonly SlotFiles[]): string {
  const { columns } = wallExtent(places.length, slot);
  const under = 'data' in ground ? `url(${WALL.photo}) center / cover` : hexFromRgb(ground);
  const images = slots.map((own, k) => {
    const [paths, once, twice] = ['paths', 'once', 'twice'].map((kind) => fileOf(own, kind)?.name);
    const source = paths
      ? `src="${address(paths)}"`
      : `src="${address(once as string)}" srcset="${address(twice as string)} 2x"`;
    return `<li><img ${source} width="${slot.width}" height="${slot.height}" alt="${escaped(places[k].title)}"></li>`;
  });
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(title)}</title>
<style>
ul { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, ${slot.width}px), 1fr)); margin: 0 auto;
  padding: 0; max-width: ${columns * slot.width}px; list-style: none; }
li { background: ${under}; display: grid; place-items: center; }
img { max-width: 100%; height: auto; display: block; }
</style>
<ul>
${images.join('\n')}
</ul>
</html>
`;
}

import { basename } from 'node:path';
import { CoreError, isCoreError } from '../core/errors';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { cutOutFlat, plainFlat } from '../core/matte/cutOutFlat';
import { UNSURE_BELOW } from '../core/matte/enclosedAreas';
import { initialRecipe } from '../core/recipe/recipe';
import { cutOutFacts, runStages } from '../core/recipe/runRecipe';
import { marksOf } from '../core/stages/cutOutFacts';
import { checkFile, decodePicture } from '../codecs/decodePicture';
import { readPdfPage, readPdfPages } from '../codecs/readPdfPage';
import { isPdf } from '../codecs/sniffKind';
import { openSvg } from '../codecs/readSvg';
import type { RectPx } from '../core/params';
import { clustersOfDrawing } from '../core/artwork/drawingClusters';
import { type Command, isFolder, readArguments, readInput } from './command';

const help = `tassel inspect FILE [--json]

Tells what a file is: size, mode, transparency, the proposed way to cut it out
(flat, paper, transparent, vector), its ground's colour and noise, the enclosed
areas with what they would become, and the signatures on a sheet of paper with
their places and turns.

  --json   one JSON object on standard output`;

export const inspect: Command = {
  help,
  async run(argv) {
    const { values, positionals } = readArguments(argv, { json: { type: 'boolean' } });
    if (positionals.length !== 1)
      throw new CoreError('cli/usage', `inspect takes one file, got ${positionals.length}.`);
    const facts = await inspectFile(positionals[0]);
    if (values.json) console.log(JSON.stringify(facts));
    else printFacts(facts);
    return 0;
  },
};

interface Inspected {
  readonly file: string;
  readonly format: string;
  readonly width: number;
  readonly height: number;
  readonly mode: string;
  readonly transparency: { readonly channel: boolean; readonly clearShare: number; readonly partShare: number };
  readonly way: string;
  readonly ground: string | null;
  readonly noise: number;
  readonly drift: number;
  readonly groundShare: number;
  readonly notes: readonly string[];
  /** Whether it holds paths. */
  readonly vector: boolean;
  /** Of a document; null for a picture. */
  readonly pages: number | null;
  /** Separate pictures on a sheet of paths, or on a document's first page. */
  readonly clusters: readonly RectPx[];
  readonly areas: readonly {
    x: number;
    y: number;
    areaPx: number;
    decision: string;
    certainty: number;
    isUnsure: boolean;
    /** Areas that one question is about share a group. */
    group: number;
    asks: string | null;
  }[];
  readonly marks: readonly {
    x: number;
    y: number;
    width: number;
    height: number;
    angleDeg: number;
  }[];
}

async function inspectFile(path: string): Promise<Inspected> {
  if (isFolder(path)) throw new CoreError('file/not-readable', `${path} is a folder; inspect takes one file.`);
  const bytes = readInput(path);
  const name = basename(path);
  if (isPdf(bytes)) return inspectPdf(path, bytes, name);
  if (checkFile(bytes, name).id === 'svg') return inspectSvg(path, bytes, name);
  const { kind, raster, hasAlphaChannel, notes } = await decodePicture(bytes, basename(path));
  const seen = inspectPicture(raster, hasAlphaChannel);
  return {
    file: path,
    format: kind.id,
    width: seen.width,
    height: seen.height,
    mode: hasAlphaChannel ? 'RGBA' : 'RGB',
    transparency: { channel: hasAlphaChannel, clearShare: round(seen.clearShare), partShare: round(seen.partShare) },
    way: seen.way,
    ground: seen.groundHex,
    noise: round(seen.noise),
    drift: round(seen.drift),
    groundShare: round(seen.share),
    notes,
    vector: false,
    pages: null,
    clusters: [],
    areas: seen.way === 'flat' ? listAreas(raster) : [],
    marks: seen.way === 'paper' ? listMarks(raster) : [],
  };
}

/** What a file of paths says in the fields that tell of pixels: nothing. */
const noPixels = {
  mode: 'paths',
  transparency: { channel: true, clearShare: 0, partShare: 0 },
  way: 'vector',
  ground: null,
  noise: 0,
  drift: 0,
  groundShare: 0,
  vector: true,
  areas: [],
  marks: [],
};

function inspectSvg(path: string, bytes: Uint8Array, name: string): Inspected {
  const { drawing, scale, origin, notes } = openSvg(bytes, name);
  const clusters = clustersOfDrawing(drawing);
  return {
    ...noPixels,
    file: path,
    format: 'svg',
    width: round(drawing.widthPx / scale),
    height: round(drawing.heightPx / scale),
    notes,
    pages: 1,
    clusters: clusters.map(({ box }) => ({
      x: round(box.x / scale + origin.x),
      y: round(box.y / scale + origin.y),
      width: round(box.width / scale),
      height: round(box.height / scale),
    })),
  };
}

async function inspectPdf(path: string, bytes: Uint8Array, name: string): Promise<Inspected> {
  const pages = await readPdfPages(bytes, name);
  const first = await readPdfPage(bytes, name, 1);
  const notes = first.texts.length > 0 ? ['text on its first page is no paths'] : [];
  const drawing = { widthPx: first.widthPt, heightPx: first.heightPt, shapes: first.shapes };
  return {
    ...noPixels,
    file: path,
    format: 'pdf',
    width: round(first.widthPt),
    height: round(first.heightPt),
    notes,
    vector: first.shapes.length > 0,
    pages: pages.length,
    clusters: clustersOfDrawing(drawing).map(({ box }) => rounded(box)),
  };
}

const rounded = (b: RectPx): RectPx => ({
  x: round(b.x),
  y: round(b.y),
  width: round(b.width),
  height: round(b.height),
});

function listAreas(raster: Parameters<typeof inspectPicture>[0]) {
  const { facts } = cutOutFlat(raster, { ...plainFlat, onlyAreas: true });
  return facts.areas.map(({ x, y, areaPx, decision, certainty, group, asks }) => ({
    x,
    y,
    areaPx,
    decision,
    certainty: round(certainty),
    isUnsure: certainty < UNSURE_BELOW,
    group,
    asks,
  }));
}

function listMarks(raster: Parameters<typeof inspectPicture>[0]) {
  try {
    const { stages } = initialRecipe();
    const result = runStages(
      raster,
      { ...stages, cutOut: { ...stages.cutOut, way: 'paper' } },
      { pictureKey: 'inspect', reduction: 1 },
    );
    return marksOf(cutOutFacts(result)).map(({ x, y, width, height, angleDeg }) => ({ x, y, width, height, angleDeg }));
  } catch (error) {
    if (isCoreError(error)) return [];
    throw error;
  }
}

function printFacts(f: Awaited<ReturnType<typeof inspectFile>>): void {
  const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;
  const rows: [string, string][] = [
    ['file', f.file],
    ['size', `${f.width} × ${f.height} ${f.format === 'pdf' ? 'pt' : 'px'}, ${f.format}, ${f.mode}`],
    [
      'transparency',
      f.transparency.channel
        ? `${percent(f.transparency.clearShare)} clear, ${percent(f.transparency.partShare)} part`
        : 'none',
    ],
    ['proposed way', f.way],
  ];
  if (f.ground)
    rows.push(['ground', `${f.ground}, noise ${f.noise}, drift ${f.drift}, ${percent(f.groundShare)} of the border`]);
  if (f.areas.length) {
    const asked = new Set(f.areas.filter((a) => a.isUnsure).map((a) => a.group)).size;
    const open = f.areas.filter((a) => a.decision === 'open').length;
    rows.push(['enclosed areas', `${f.areas.length}, ${open} open${asked ? `, ${asked} to be asked about` : ''}`]);
  }
  f.marks.forEach((m, k) =>
    rows.push([
      k ? '' : 'signatures',
      `${k + 1}: ${m.width} × ${m.height} px at ${m.x}, ${m.y}, turned ${m.angleDeg}°`,
    ]),
  );
  if (f.pages !== null) rows.push(['pages', `${f.pages}`]);
  if (f.clusters.length > 1) rows.push(['pictures', `${f.clusters.length} on the sheet`]);
  if (f.notes.length) rows.push(['notes', f.notes.join('; ')]);
  for (const [name, value] of rows) console.log(`${name.padEnd(16)}${value}`);
}

const round = (v: number) => Math.round(v * 1000) / 1000;

import { basename } from 'node:path';
import { CoreError, isCoreError } from '../core/errors';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { cutOutFlat, plainFlat } from '../core/matte/cutOutFlat';
import { initialRecipe } from '../core/recipe/recipe';
import { cutOutFacts, runStages } from '../core/recipe/runRecipe';
import { marksOf } from '../core/stages/cutOutFacts';
import { decodePicture } from '../codecs/decodePicture';
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

async function inspectFile(path: string) {
  if (isFolder(path)) throw new CoreError('file/not-readable', `${path} is a folder; inspect takes one file.`);
  const bytes = readInput(path);
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
    areas: seen.way === 'flat' ? listAreas(raster) : [],
    marks: seen.way === 'paper' ? listMarks(raster) : [],
  };
}

function listAreas(raster: Parameters<typeof inspectPicture>[0]) {
  const { facts } = cutOutFlat(raster, { ...plainFlat, onlyAreas: true });
  return facts.areas.map(({ x, y, areaPx, decision, certainty }) => ({
    x,
    y,
    areaPx,
    decision,
    certainty: round(certainty),
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
    ['size', `${f.width} × ${f.height} px, ${f.format}, ${f.mode}`],
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
  if (f.areas.length)
    rows.push(['enclosed areas', `${f.areas.length}, ${f.areas.filter((a) => a.decision === 'open').length} open`]);
  f.marks.forEach((m, k) =>
    rows.push([
      k ? '' : 'signatures',
      `${k + 1}: ${m.width} × ${m.height} px at ${m.x}, ${m.y}, turned ${m.angleDeg}°`,
    ]),
  );
  if (f.notes.length) rows.push(['notes', f.notes.join('; ')]);
  for (const [name, value] of rows) console.log(`${name.padEnd(16)}${value}`);
}

const round = (v: number) => Math.round(v * 1000) / 1000;

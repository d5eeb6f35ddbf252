// Accuracy and speed of the cut-out beside plain baselines, all in one run.
import { spawnSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { inspectPicture } from '../core/inspect/inspectPicture';
import { cutOutFlat, plainFlat } from '../core/matte/cutOutFlat';
import type { Anchor } from '../core/params';
import type { Raster } from '../core/raster/raster';
import { toJpeg } from '../demo/capture';
import { badgeSvg } from '../demo/marks/badge';
import { compositeOn, renderSvg } from '../demo/render';
import { drawLogos } from '../demo/scenario';
import { decodePicture } from '../server/codecs/decodePicture';
import { connectedWithChoke, hardColourKey } from './baselines';
import { benchCaptures, timeLargeCapture } from './captures';
import { enclosedTruth, scoreEnclosed } from './enclosedTruth';
import { type Accuracy, measureAccuracy } from './measure';
import { makeTestLogo } from './testLogos';

const root = join(import.meta.dirname, '..');
const out = join(root, 'bench/out');
mkdirSync(out, { recursive: true });
const ours = (anchors: readonly Anchor[]) => (picture: Raster) => cutOutFlat(picture, { ...plainFlat, anchors }).picture;

interface Score extends Accuracy { readonly left: number | null; readonly lost: number | null; readonly msPerMp: number }
type Method = (picture: Raster) => Raster;

function score(method: Method, picture: Raster, truth: Raster, kinds: Uint8Array): Score {
  const began = performance.now();
  const result = method(picture);
  const msPerMp = (performance.now() - began) / ((picture.width * picture.height) / 1e6);
  const { groundLeft, solidsLost } = scoreEnclosed(result, kinds);
  return { ...measureAccuracy(result, truth), left: groundLeft, lost: solidsLost, msPerMp };
}

const mean = (list: (number | null)[]) => {
  const known = list.filter((v): v is number => v !== null);
  return known.length ? known.reduce((a, b) => a + b, 0) / known.length : Number.NaN;
};
const cell = (v: number, digits: number, width: number) => (Number.isNaN(v) ? '–' : v.toFixed(digits)).padStart(width);

function printTable(title: string, rows: ReadonlyMap<string, readonly Score[]>): void {
  console.log(`\n${title}\n${''.padEnd(34)}alpha  colour  comp.   p99   left   lost  ms/MP`);
  for (const [name, list] of rows) {
    const m = (pick: (s: Score) => number | null) => mean(list.map(pick));
    console.log(`${name.padEnd(32)}${cell(m((s) => s.alpha), 4, 7)}${cell(m((s) => s.colour), 2, 8)}${cell(m((s) => s.compositeMean), 2, 7)}${cell(m((s) => s.compositeP99), 1, 6)}${cell(m((s) => s.left), 3, 7)}${cell(m((s) => s.lost), 3, 7)}${cell(m((s) => s.msPerMp), 0, 7)}`);
  }
}

async function measureSet(inputs: readonly { picture: Raster; truth: Raster; ground: readonly [number, number, number] }[]): Promise<Map<string, Score[]>> {
  const rows = new Map<string, Score[]>([['hard colour key', []], ['connected, 1 px choke', []], ['Tassel, no setting', []], ['Tassel, enclosed areas given', []]]);
  for (const { picture, truth, ground } of inputs) {
    const { kinds, anchors } = enclosedTruth({ truth, ground });
    const methods: Method[] = [hardColourKey, connectedWithChoke, ours([]), ours(anchors)];
    for (const [k, list] of [...rows.values()].entries()) list.push(score(methods[k], picture, truth, kinds));
  }
  return rows;
}

const demo = [];
for (const mark of await drawLogos()) {
  if (!mark.ground) continue;
  const { raster } = await decodePicture(mark.bytes, mark.fileName);
  if (inspectPicture(raster).way !== 'transparent') demo.push({ picture: raster, truth: mark.truth, ground: mark.ground });
}
console.log('alpha: error in the edge band; colour: ΔE there; comp., p99: composite ΔE on the worst of four grounds; left: ground left in\nenclosed areas; lost: inner solids lost. ms/MP includes warming up on small pictures.');
printTable(`The demo's marks on a ground (${demo.length})`, await measureSet(demo));

// Seeds from 1000 up were never looked at while tuning; those below 40 were.
const amount = Number(process.argv[2] ?? 30);
const logos = [];
for (let seed = 1000; seed < 1000 + amount; seed++) logos.push(await makeTestLogo(seed));
printTable(`Test logos kept out of tuning (${logos.length})`, await measureSet(logos));

const inner = [];
for (let seed = 1000; seed < 1000 + amount; seed++) inner.push(await makeTestLogo(seed, 'inner'));
printTable(`Test logos whose inner parts are the question, kept out of tuning (${inner.length})`, await measureSet(inner));

// Speed on a large picture, and of the whole command beside a bare decode and encode.
const large = compositeOn(renderSvg(badgeSvg(1500), 3264, 2448, '-880 -470 3264 2448'), [255, 255, 255]);
const file = join(out, 'eight-megapixels.jpg');
writeFileSync(file, await toJpeg(large, 88));
const { raster } = await decodePicture(new Uint8Array(await toJpeg(large, 88)), 'large.jpg');
const runs = [0, 1, 2].map(() => {
  const began = performance.now();
  ours([])(raster);
  return performance.now() - began;
});
const bare = `const s=require('sharp');s(${JSON.stringify(file)}).ensureAlpha().raw().toBuffer({resolveWithObject:true}).then(({data,info})=>s(data,{raw:info}).png().toFile(${JSON.stringify(join(out, 'bare.png'))}))`;
const time = (command: string, args: string[]) => {
  const began = performance.now();
  const { status, stderr } = spawnSync(command, args, { cwd: root, encoding: 'utf8' });
  if (status !== 0) throw new Error(`${command} failed: ${stderr}`);
  return performance.now() - began;
};
const command = [0, 1, 2].map(() => time(process.execPath, ['cli/tassel.mjs', 'cutout', file, '--out', join(out, 'cut.png')]));
const plain = [0, 1, 2].map(() => time(process.execPath, ['-e', bare]));
const best = (list: number[]) => Math.min(...list);
console.log(`\nEight megapixels, mostly ground, one thread: ${runs.map((r) => Math.round(r / 8)).join(', ')} ms/MP (first to third run)
Whole command ${Math.round(best(command))} ms, bare decode and PNG encode with sharp ${Math.round(best(plain))} ms: ratio ${(best(command) / best(plain)).toFixed(2)}`);

await benchCaptures(Array.from({ length: amount }, (_, k) => 1000 + k), false);
await timeLargeCapture();

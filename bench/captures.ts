// Accuracy and speed of taking ink off paper beside plain baselines: npm run bench -- N --captures
import { type InkFacts, cutOutInk, plainInk } from '../core/ink/cutOutInk';
import { isCoreError } from '../core/errors';
import type { Raster } from '../core/raster/raster';
import { inkKey, inkRamp, otsuThreshold } from './baselines';
import { type Accuracy, measureAccuracy } from './measure';
import { type InkScore, measureInkResult, measureMarks } from './measureInk';
import { makeHardCapture } from './hardCaptures';
import { makeTestCapture } from './testCaptures';

type Score = Accuracy & InkScore & { readonly msPerMp: number };

function ours(picture: Raster): { picture: Raster; facts: InkFacts | null } {
  try {
    return cutOutInk(picture, plainInk);
  } catch (error) {
    if (!isCoreError(error)) throw error;
    return { picture: { ...picture, data: new Uint8Array(picture.data.length) }, facts: null };
  }
}

const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / Math.max(1, list.length);

/** Sheets as in the demo, and the hard ones: another hand, several pens on a sheet, thin pens in small pictures. */
export const sheets = { plain: makeTestCapture, hard: makeHardCapture };

/** @param seeds  of the captures; those from 1000 up were never looked at while tuning */
export async function benchCaptures(
  seeds: readonly number[],
  isVerbose: boolean,
  set: keyof typeof sheets = 'plain',
): Promise<void> {
  const rows = new Map<string, Score[]>([
    ['colour key', []],
    ['one threshold (Otsu)', []],
    ['luminance ramp', []],
    ['Tassel, no setting', []],
  ]);
  const angles: number[] = [];
  let rightNumber = 0;
  for (const seed of seeds) {
    const capture = await sheets[set](seed);
    const { picture, truth } = capture;
    const methods: ((p: Raster) => { picture: Raster; facts?: InkFacts | null })[] = [
      inkKey,
      otsuThreshold,
      inkRamp,
    ].map((m) => (p: Raster) => ({ picture: m(p) }));
    for (const [k, [, list]] of [...rows].entries()) {
      if (isVerbose && k < 3) continue;
      const began = performance.now();
      const done = k < 3 ? methods[k](picture) : ours(picture);
      const msPerMp = (performance.now() - began) / ((picture.width * picture.height) / 1e6);
      const score = { ...measureAccuracy(done.picture, truth), ...measureInkResult(done.picture, truth), msPerMp };
      list.push(score);
      if (k < 3) continue;
      const error = measureMarks(done.facts?.marks ?? [], capture);
      if (error !== null) {
        rightNumber++;
        angles.push(error);
      }
      if (isVerbose)
        console.log(
          `${String(seed).padStart(5)} ${picture.width}px alpha ${score.alpha.toFixed(3)} ` +
            `colour ${score.colour.toFixed(1)} comp ${score.compositeMean.toFixed(2)} p99 ` +
            `${score.compositeP99.toFixed(1)} F ${score.f.toFixed(3)} thin ` +
            `${score.thin.toFixed(3)} strays ${score.strays} angle ` +
            `${error?.toFixed(1) ?? `${done.facts?.marks.length ?? 0} of ${capture.marks.length}`} ` +
            `· ${capture.id}, ${capture.how}`,
        );
    }
  }
  console.log(
    `\nCaptures of ink on paper${set === 'hard' ? ', the hard cases' : ''} (${seeds.length})\n` +
      `${''.padEnd(26)}alpha  colour  comp.   ` +
      'p99      F   thin  strays  ms/MP',
  );
  for (const [name, list] of rows) {
    const m = (pick: (s: Score) => number, digits: number, width: number) =>
      mean(list.map(pick)).toFixed(digits).padStart(width);
    console.log(
      [
        name.padEnd(24),
        m((s) => s.alpha, 4, 7),
        m((s) => s.colour, 2, 8),
        m((s) => s.compositeMean, 2, 7),
        m((s) => s.compositeP99, 1, 6),
        m((s) => s.f, 3, 7),
        m((s) => s.thin, 3, 7),
        m((s) => s.strays, 1, 8),
        m((s) => s.msPerMp, 0, 7),
      ].join(''),
    );
  }
  console.log(
    `right number of marks on ${Math.round((rightNumber / seeds.length) * 100)} % of the ` +
      `sheets; angle off by ${mean(angles).toFixed(2)}° on average`,
  );
}

/** Time of one photograph of about twelve megapixels, one thread, first to third run. */
export async function timeLargeCapture(): Promise<void> {
  const { picture } = await makeTestCapture(5, [4000]);
  const mp = (picture.width * picture.height) / 1e6;
  const runs = [0, 1, 2].map(() => {
    const began = performance.now();
    cutOutInk({ ...picture }, plainInk);
    return Math.round((performance.now() - began) / mp);
  });
  console.log(`A photograph of ${mp.toFixed(1)} MP, one thread: ${runs.join(', ')} ms/MP (first to third run)`);
}

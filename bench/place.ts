// npm run bench -- --place [photos]: a mark on photos of 24 megapixels, beside bare sharp that decodes, lays one
// prepared PNG on and encodes the same files on the same cores.
import { execFileSync, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { seededRandom } from '../core/seededRandom';

const [WIDTH, HEIGHT] = [6000, 4000];
const QUALITY = 92;
const photos = Number(process.argv[2] ?? 24);
const say = (line: string) => process.stdout.write(`${line}\n`);
const folder = mkdtempSync(join(tmpdir(), 'tassel-bench-'));
const [from, ours, theirs] = ['from', 'ours', 'theirs'].map((name) => join(folder, name));

/** Soft tones with grain: as large, coded, as a camera's. */
async function drawPhoto(seed: number): Promise<Buffer> {
  const random = seededRandom(seed);
  const data = Buffer.alloc(WIDTH * HEIGHT * 3);
  const [base, swing, wide] = [60 + random() * 140, 30 + random() * 40, 200 + random() * 500];
  for (let y = 0, p = 0; y < HEIGHT; y++) {
    const row = Math.cos(y / (wide * 0.8));
    for (let x = 0; x < WIDTH; x++, p += 3) {
      const v = base + swing * Math.sin(x / wide) * row + ((p * 2654435761) % 11) - 5;
      data[p] = v;
      data[p + 1] = v * 0.94 + 6;
      data[p + 2] = v * 0.86 + 18;
    }
  }
  return sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .jpeg({ quality: QUALITY })
    .toBuffer();
}

async function bare(names: readonly string[], mark: Buffer): Promise<number> {
  const began = performance.now();
  const queue = [...names];
  const turn = async () => {
    for (let name = queue.shift(); name; name = queue.shift()) {
      const bytes = await sharp(join(from, name))
        .composite([{ input: mark, left: WIDTH - 160 - 1080, top: HEIGHT - 160 - 540 }])
        .jpeg({ quality: QUALITY })
        .toBuffer();
      writeFileSync(join(theirs, name), bytes);
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, turn));
  return performance.now() - began;
}

/** @returns ms, and the most memory that the command held, MB */
async function placed(): Promise<{ ms: number; peakMb: number }> {
  const words = ['cli/tassel.mjs', 'place', from, '--mark', join(folder, 'mark.svg'), '--out', ours];
  const began = performance.now();
  const child = spawn(process.execPath, words, { stdio: 'inherit' });
  let peakMb = 0;
  const watch = setInterval(() => {
    try {
      const status = readFileSync(`/proc/${child.pid}/status`, 'utf8');
      peakMb = Math.max(peakMb, Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024);
    } catch {
      /* it has ended */
    }
  }, 100);
  await new Promise((resolve) => child.once('exit', resolve));
  clearInterval(watch);
  return { ms: performance.now() - began, peakMb };
}

try {
  for (const path of [from, ours, theirs]) mkdirSync(path);
  const kinds = await Promise.all([1, 2, 3, 4].map(drawPhoto));
  for (let k = 0; k < photos; k++) writeFileSync(join(from, `photo-${String(k).padStart(3, '0')}.jpg`), kinds[k % 4]);
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100"><circle cx="60" cy="50" r="44" fill="#1f5a45"/>' +
    '<path d="M110 20h80v12h-80zM110 48h60v12h-60z" fill="#1f5a45"/></svg>';
  writeFileSync(join(folder, 'mark.svg'), svg);
  const mark = await sharp(Buffer.from(svg), { density: 400 }).resize(1080, 540, { fit: 'fill' }).png().toBuffer();
  execFileSync(process.execPath, ['cli/tassel.mjs', '--help']); // bundled before it is timed
  const names = readdirSync(from);
  const bareMs = await bare(names, mark);
  const { ms, peakMb } = await placed();
  say(`${photos} photos of ${WIDTH} × ${HEIGHT} px, ${availableParallelism()} cores`);
  say(`  bare sharp      ${(bareMs / photos).toFixed(0)} ms a photo`);
  const times = (ms / bareMs).toFixed(2);
  say(`  tassel place    ${(ms / photos).toFixed(0)} ms a photo, ${times} times, ${peakMb.toFixed(0)} MB`);
} finally {
  rmSync(folder, { recursive: true, force: true });
}

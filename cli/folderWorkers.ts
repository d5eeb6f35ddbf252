import { readdir } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join, parse } from 'node:path';
import { Worker, parentPort } from 'node:worker_threads';
import { formats } from '../core/formats';
import { CoreError } from '../core/errors';
import { type CutoutJob, runCutout } from './cutoutFile';

interface Done {
  input: string;
  error: string | null;
}

/** Every file of a folder through `cutout`, with all cores; one bad file does not stop the others. */
export async function runFolder(job: CutoutJob): Promise<number> {
  const entries = await readdir(job.input, { withFileTypes: true });
  const names = entries
    .filter((e) => e.isFile() && !e.name.startsWith('.'))
    .map((e) => e.name)
    .sort();
  const queue = nameOutputs(names, job.format).map(([name, output]) => ({
    ...job,
    input: join(job.input, name),
    output: join(job.output, output),
  }));
  if (queue.length === 0) throw new CoreError('file/not-readable', `${job.input} holds no files.`);
  const total = queue.length;
  let failed = 0;
  const report = ({ input, error }: Done) => {
    if (error !== null) {
      failed++;
      console.error(`tassel: ${error.includes(parse(input).base) ? error : `${input}: ${error}`}`);
    } else console.log(input);
  };
  const threads = Math.min(availableParallelism(), queue.length);
  await Promise.all(Array.from({ length: threads }, () => serve(queue, report)));
  console.log(`${total} files, ${failed} failed`);
  return failed ? 1 : 0;
}

/** `a.png` and `a.jpg` in one folder must not overwrite each other's output. */
function nameOutputs(names: readonly string[], format: string): [string, string][] {
  const { extension } = formats.get(format);
  const stems = new Map<string, number>();
  for (const name of names) stems.set(parse(name).name, (stems.get(parse(name).name) ?? 0) + 1);
  return names.map((name) => [
    name,
    `${(stems.get(parse(name).name) as number) > 1 ? name.replace(/\./g, '-') : parse(name).name}.${extension}`,
  ]);
}

function serve(queue: CutoutJob[], report: (done: Done) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(process.env.TASSEL_BUNDLE as string, { workerData: { isTasselWorker: true } });
    const next = () => {
      const job = queue.shift();
      if (job) worker.postMessage(job);
      else void worker.terminate().then(() => resolve());
    };
    worker.on('message', (done: Done) => {
      report(done);
      next();
    });
    worker.on('error', reject);
    next();
  });
}

/** The other side: one job after another until the main thread ends it. */
export function runAsWorker(): void {
  parentPort?.on('message', (job: CutoutJob) => {
    runCutout(job).then(
      () => parentPort?.postMessage({ input: job.input, error: null }),
      (error: Error) => parentPort?.postMessage({ input: job.input, error: error.message.replace(/\s*\n\s*/g, ' ') }),
    );
  });
}

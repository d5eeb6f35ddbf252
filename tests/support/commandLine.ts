import { AsyncLocalStorage } from 'node:async_hooks';
import { execFile } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { format, promisify } from 'node:util';
import { afterAll } from 'vitest';
import { projectDir } from './testDatabase';

export interface Ended {
  readonly code: number;
  readonly stdout: string;
  readonly stderr: string;
}

/** A process of its own, as a person calls it. */
const callTassel = (...args: string[]): Promise<Ended> =>
  promisify(execFile)(process.execPath, [join(projectDir, 'cli/tassel.mjs'), ...args]).then(
    ({ stdout, stderr }) => ({ code: 0, stdout, stderr }),
    (e: Ended) => e,
  );

type Run = (args: readonly string[]) => Promise<number>;

/** What each call says: several may be on their way at once. */
const said = new AsyncLocalStorage<{ stdout: string; stderr: string }>();

/** The script that such a process would load, made if need be. */
async function loadScript(): Promise<Run> {
  const { code, stderr } = await callTassel('--help');
  if (code !== 0) throw new Error(stderr);
  const made = join(projectDir, '.cache/cli');
  const [newest] = readdirSync(made).filter((name) => !name.endsWith('.tmp'));
  const bundle = join(made, newest, 'main.cjs');
  Object.assign(process.env, { TASSEL_BUNDLE: bundle, TASSEL_ROOT: projectDir });
  for (const [name, stream] of [
    ['log', 'stdout'],
    ['error', 'stderr'],
  ] as const) {
    const own = console[name].bind(console);
    console[name] = (...words: unknown[]) => {
      const here = said.getStore();
      if (here) here[stream] += `${format(...words)}\n`;
      else own(...words);
    };
  }
  return (createRequire(bundle)(bundle) as { run: Run }).run;
}

let script: Promise<Run> | null = null;

/** The same script in this process, which spares the start of one for each of hundreds of calls. */
async function tassel(...args: string[]): Promise<Ended> {
  const run = await (script ??= loadScript());
  const own = { stdout: '', stderr: '' };
  const code = await said.run(own, () => run(args));
  return { code, ...own };
}

/** A folder of a test file's own, gone afterwards, and the command line. */
export function commandLine(name: string) {
  const folder = mkdtempSync(join(tmpdir(), `tassel-${name}-`));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return { folder, at: (file: string) => join(folder, file), tassel };
}

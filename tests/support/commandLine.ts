import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll } from 'vitest';

export interface Ended {
  readonly code: number;
  readonly stdout: string;
  readonly stderr: string;
}

/** A folder of a test file's own, gone afterwards, and the command line as a person calls it. */
export function commandLine(name: string) {
  const folder = mkdtempSync(join(tmpdir(), `tassel-${name}-`));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return {
    folder,
    at: (file: string) => join(folder, file),
    tassel: (...args: string[]): Promise<Ended> =>
      promisify(execFile)(process.execPath, ['cli/tassel.mjs', ...args]).then(
        ({ stdout, stderr }) => ({ code: 0, stdout, stderr }),
        (e: Ended) => e,
      ),
  };
}

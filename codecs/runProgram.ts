import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const MOST_MS = 60_000;
const MOST_OUTPUT = 512 * 1024 * 1024;

/** The program is not on this machine. */
export class NoProgram extends Error {
  constructor(readonly program: string) {
    super(`${program} is not installed`);
  }
}

/**
 * Has a program of the system look at a file: it lies in a folder of its own under a name of ours, and is gone after.
 * @param args  the program's, given the path of the file and of the folder
 * @param output  a file that it writes into the folder; what it prints otherwise
 * @throws NoProgram, or Error with what the program said
 */
export async function runOnFile(
  program: string,
  bytes: Uint8Array,
  args: (path: string, folder: string) => string[],
  { ending, output }: { ending: string; output?: string },
): Promise<Buffer> {
  const folder = mkdtempSync(join(tmpdir(), 'tassel-look-'));
  try {
    const path = join(folder, `file.${ending}`);
    writeFileSync(path, bytes);
    const printed = await run(program, args(path, folder));
    return output ? readFileSync(join(folder, output)) : printed;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function run(program: string, args: string[]): Promise<Buffer> {
  const options = { timeout: MOST_MS, maxBuffer: MOST_OUTPUT, encoding: 'buffer' as const, windowsHide: true };
  return new Promise((resolve, reject) => {
    execFile(program, args, options, (error, out, said) => {
      if (!error) resolve(out);
      else if ((error as NodeJS.ErrnoException).code === 'ENOENT') reject(new NoProgram(program));
      else reject(new Error(String(said).trim().split('\n')[0] || error.message, { cause: error }));
    });
  });
}

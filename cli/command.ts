import { parseArgs, type ParseArgsConfig } from 'node:util';
import { readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { CoreError } from '../core/errors';

export interface Command {
  readonly help: string;
  run(argv: readonly string[]): Promise<number>;
}

/** Options and words of a command line. @throws CoreError 'cli/usage' for anything it does not know */
export function readArguments<T extends NonNullable<ParseArgsConfig['options']>>(argv: readonly string[], options: T) {
  try {
    return parseArgs({ args: joinNegatives(argv), options, allowPositionals: true, strict: true, tokens: true });
  } catch (cause) {
    throw new CoreError('cli/usage', (cause as Error).message.split('\n')[0], {}, { cause });
  }
}

// `--choke -0.5` reads as two options otherwise.
function joinNegatives(argv: readonly string[]): string[] {
  const out: string[] = [];
  for (const word of argv) {
    const last = out[out.length - 1];
    if (/^-\d/.test(word) && last?.startsWith('--') && !last.includes('=')) out[out.length - 1] = `${last}=${word}`;
    else out.push(word);
  }
  return out;
}

/** Whether a path names a folder; false for what cannot be looked at, since reading it says why. */
export function isFolder(path: string): boolean {
  try {
    return statSync(path).isDirectory();
  } catch {
    return false;
  }
}

/** @throws CoreError 'file/not-readable' naming the file */
export function readInput(path: string): Uint8Array {
  try {
    return readFileSync(path);
  } catch (cause) {
    const code = (cause as NodeJS.ErrnoException).code;
    const why =
      code === 'ENOENT' ? 'there is no such file' : code === 'EISDIR' ? 'it is a folder' : (cause as Error).message;
    throw new CoreError('file/not-readable', `${path} cannot be read: ${why}.`, { file: path }, { cause });
  }
}

/** @throws CoreError 'cli/usage' unless the text is a number in the range */
export function readNumber(text: string, option: string, min: number, max: number): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value) || value < min || value > max)
    throw new CoreError('cli/usage', `--${option} takes a number from ${min} to ${max}, got "${text}".`);
  return value;
}

/** @throws CoreError 'cli/usage' unless the text is a whole number in the range */
export function readWhole(text: string, option: string, min: number, max: number): number {
  const value = readNumber(text, option, min, max);
  if (!Number.isInteger(value))
    throw new CoreError('cli/usage', `--${option} takes a whole number from ${min} to ${max}, got "${text}".`);
  return value;
}

/** Does work, and says the file's name with what goes wrong. */
export function namingNow<T>(name: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    throw named(name, error);
  }
}

/** The same for work that takes its time. */
export async function naming<T>(name: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw named(name, error);
  }
}

function named(name: string, error: unknown): unknown {
  if (!(error instanceof CoreError) || error.message.includes(name)) return error;
  return new CoreError(error.code, `${name}: ${error.message}`, { ...error.details, file: name }, { cause: error });
}

/** Writes a file that appears under its name only when it is whole. @throws CoreError 'file/not-writable' naming it */
export function writeWhole(path: string, content: Uint8Array | string): void {
  const own = `${path}.${process.pid}.part`;
  try {
    writeFileSync(own, content);
    renameSync(own, path);
  } catch (cause) {
    try {
      rmSync(own, { force: true });
    } catch {
      /* what went wrong first is told */
    }
    throw new CoreError(
      'file/not-writable',
      `${path} cannot be written: ${(cause as Error).message}.`,
      { file: path },
      { cause },
    );
  }
}

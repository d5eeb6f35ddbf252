import { parseArgs, type ParseArgsConfig } from 'node:util';
import { readFileSync, statSync } from 'node:fs';
import { CoreError } from '../core/errors';

export interface Command {
  readonly help: string;
  run(argv: readonly string[]): Promise<number>;
}

/** Options and words of a command line. @throws CoreError 'cli/usage' for anything it does not know */
export function readArguments<T extends NonNullable<ParseArgsConfig['options']>>(argv: readonly string[], options: T) {
  try {
    return parseArgs({ args: joinNegatives(argv), options, allowPositionals: true, strict: true });
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

import { CoreError } from '../core/errors';
import { readInput } from './command';

/** @throws CoreError 'file/not-readable' or 'recipe/invalid' naming the file */
export function readJsonFile(path: string): unknown {
  const text = new TextDecoder().decode(readInput(path));
  try {
    return JSON.parse(text) as unknown;
  } catch (cause) {
    throw new CoreError('recipe/invalid', `${path} holds no JSON: ${(cause as Error).message}.`, {}, { cause });
  }
}

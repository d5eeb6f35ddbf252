import opentype from 'opentype.js';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { TypeFont } from '../core/type/setType';

const require = createRequire(import.meta.url);
const loaded = new Map<string, TypeFont>();

/** A font from a file of an installed package, parsed once. */
export function loadTypeface(file: string): TypeFont {
  let found = loaded.get(file);
  if (!found) {
    const bytes = readFileSync(require.resolve(file));
    found = opentype.parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength)) as TypeFont;
    loaded.set(file, found);
  }
  return found;
}

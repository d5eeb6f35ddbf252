import { crc32 } from 'node:zlib';
import { CoreError } from '../core/errors';

/**
 * Reads a ZIP of stored entries back by its local headers (PKWARE APPNOTE 4.3.7) and compares every entry with what
 * was meant. Shares no code with the writer.
 * @throws CoreError 'file/read-back' naming what differs
 */
export function readBackZip(zip: Uint8Array, meant: ReadonlyMap<string, Uint8Array>, name: string): void {
  const fail = (what: string): never => {
    throw new CoreError('file/read-back', `${name} did not read back as written: ${what}.`, { file: name });
  };
  const view = new DataView(zip.buffer, zip.byteOffset, zip.length);
  const found = new Set<string>();
  let at = 0;
  while (at + 30 <= zip.length && view.getUint32(at, true) === 0x04034b50) {
    const method = view.getUint16(at + 8, true);
    const size = view.getUint32(at + 18, true);
    const nameLength = view.getUint16(at + 26, true);
    const start = at + 30 + nameLength + view.getUint16(at + 28, true);
    const entry = new TextDecoder().decode(zip.subarray(at + 30, at + 30 + nameLength));
    const bytes = zip.subarray(start, start + size);
    const expected = meant.get(entry) ?? fail(`it holds ${entry}, which was not meant`);
    if (method !== 0) fail(`${entry} is compressed`);
    if (bytes.length !== expected.length || Buffer.compare(bytes, expected) !== 0) fail(`${entry} differs`);
    if (crc !== null && crc(bytes) !== view.getUint32(at + 14, true)) fail(`${entry} has a wrong checksum`);
    found.add(entry);
    at = start + size;
  }
  if (found.size !== meant.size) fail(`it holds ${found.size} files instead of ${meant.size}`);
}

// Node 20.15 and later bring zlib.crc32; before that only the bytes are compared.
const crc: ((bytes: Uint8Array) => number) | null = typeof crc32 === 'function' ? crc32 : null;

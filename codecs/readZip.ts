import { unzipSync } from 'fflate';
import { CoreError } from '../core/errors';
import { type ZipEntry, zipStream } from './zipStream';
import { crc32 } from 'node:zlib';

export interface ZipLimits {
  readonly files: number;
  readonly bytes: number;
}

/** Names that stay where they are unpacked. */
const PLAIN = /^(?!\/)(?!.*(^|\/)\.\.?(\/|$))[^\\:\p{Cc}]+$/u;

/**
 * The files of an archive from outside. Sizes are checked before anything is unpacked; one whose files are all stored
 * must be what we would write of them, byte for byte, so that nothing hides between them.
 * @throws CoreError 'bundle/invalid' saying what is wrong
 */
export async function readZip(bytes: Uint8Array, limits: ZipLimits): Promise<Map<string, Uint8Array>> {
  let [count, total, isStored] = [0, 0, true];
  const names = new Set<string>();
  const order: string[] = [];
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize, size, compression }) => {
        if (!PLAIN.test(name)) throw wrong(`it holds a file with an odd name, ${JSON.stringify(name).slice(0, 80)}`);
        if (names.has(name)) throw wrong(`it holds ${name} twice`);
        names.add(name);
        order.push(name);
        if (++count > limits.files) throw wrong(`it holds more than ${limits.files} files`);
        total += originalSize;
        if (total > limits.bytes) throw wrong(`it unpacks to more than ${Math.round(limits.bytes / MB)} MB`);
        if (compression === 0 && size !== originalSize) throw wrong(`the size of ${name} is told in two ways`);
        if (compression !== 0) isStored = false;
        return true;
      },
    });
  } catch (cause) {
    if (cause instanceof CoreError) throw cause;
    throw wrong('it is no whole ZIP archive', cause);
  }
  const entries = order.map((name): [string, Uint8Array] => [name, files[name]]);
  if (isStored && !(await isOurWriting(bytes, entries))) throw wrong('it was changed after it was written');
  return new Map(entries);
}

const MB = 1024 * 1024;

const wrong = (what: string, cause?: unknown) =>
  new CoreError('bundle/invalid', `The archive cannot be used: ${what}.`, {}, { cause });

async function isOurWriting(bytes: Uint8Array, entries: readonly [string, Uint8Array][]): Promise<boolean> {
  const listed = entries.map(([name, own]): ZipEntry => ({
    name,
    size: own.length,
    crc32: crc32(own),
    read: async () => own,
  }));
  let at = 0;
  for await (const piece of zipStream(listed)) {
    if (Buffer.compare(bytes.subarray(at, at + piece.length), piece) !== 0) return false;
    at += piece.length;
  }
  return at === bytes.length;
}

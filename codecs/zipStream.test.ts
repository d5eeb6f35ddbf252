import { unzipSync } from 'fflate';
import { crc32 } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { readBackZip } from './readBackZip';
import { type ZipEntry, zipLength, zipStream } from './zipStream';

const files = new Map([
  ['a.png', Uint8Array.from([1, 2, 3])],
  ['marks/Écluse.svg', new TextEncoder().encode('<svg/>'.repeat(2000))],
  ['empty.txt', new Uint8Array(0)],
]);
const entry = (name: string, bytes: Uint8Array): ZipEntry => ({
  ...{ name, size: bytes.length, crc32: crc32(bytes) },
  read: async () => bytes,
});
const entries = [...files].map(([name, bytes]) => entry(name, bytes));
async function whole(list: readonly ZipEntry[]): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  for await (const part of zipStream(list)) parts.push(part);
  return Buffer.concat(parts);
}

describe('an archive put together while it is read', () => {
  it('is as long as was told, and opens in readers that are not ours', async () => {
    const zip = await whole(entries);
    expect(zip).toHaveLength(zipLength(entries));
    expect(Object.entries(unzipSync(zip)).map(([name, bytes]) => [name, Buffer.from(bytes).toString('hex')])).toEqual(
      [...files].map(([name, bytes]) => [name, Buffer.from(bytes).toString('hex')]),
    );
    expect(() => readBackZip(zip, files, 'all.zip')).not.toThrow();
  });
  it('has the same bytes every time', async () => expect(await whole(entries)).toEqual(await whole(entries)));
  it('ends in an error when a file is not as long as it was', async () => {
    const wrong = { ...entry('b.png', Uint8Array.from([1, 2])), size: 3 };
    await expect(whole([wrong])).rejects.toThrow('b.png has 2 bytes, not 3');
  });
});

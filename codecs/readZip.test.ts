import { zipSync } from 'fflate';
import { crc32 } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { readZip } from './readZip';
import { type ZipEntry, zipStream } from './zipStream';

const LIMITS = { files: 4, bytes: 3 * 1024 * 1024 };
const text = (words: string) => new TextEncoder().encode(words);
async function stored(files: readonly [string, Uint8Array][]): Promise<Uint8Array> {
  const entries = files.map(([name, bytes]): ZipEntry => ({
    ...{ name, size: bytes.length, crc32: crc32(bytes) },
    read: async () => bytes,
  }));
  const parts: Uint8Array[] = [];
  for await (const part of zipStream(entries)) parts.push(part);
  return Buffer.concat(parts);
}
const FILES: [string, Uint8Array][] = [
  ['bundle.json', text('{}')],
  ['marks/tillerhand/original.png', Uint8Array.from([1, 2, 3, 4])],
];
const refusal = (bytes: Uint8Array, limits = LIMITS) =>
  readZip(bytes, limits).then(
    () => 'read',
    (error: Error) => error.message,
  );

describe('an archive from outside', () => {
  it('of our own writing is read with its files in their order', async () => {
    const read = await readZip(await stored(FILES), LIMITS);
    expect([...read].map(([name, bytes]) => [name, [...bytes]])).toEqual(FILES.map(([n, b]) => [n, [...b]]));
  });
  it('put together again by another program, deflated, is read as well', async () => {
    const read = await readZip(zipSync(Object.fromEntries(FILES), { level: 6 }), LIMITS);
    expect([...read.keys()].sort()).toEqual(FILES.map(([name]) => name).sort());
  });
  it('with any byte changed after it was written is refused', async () => {
    const whole = await stored(FILES);
    for (let at = 0; at < whole.length; at++) {
      const changed = Uint8Array.from(whole);
      changed[at] ^= 0x41;
      expect(await refusal(changed), `byte ${at}`).toMatch(/^The archive cannot be used: /);
    }
  });
  it('with anything before, between or after its files is refused', async () => {
    const whole = await stored(FILES);
    const more = Uint8Array.from([7, 7, 7]);
    expect(await refusal(Buffer.concat([more, whole]))).not.toBe('read');
    expect(await refusal(Buffer.concat([whole, more]))).not.toBe('read');
    expect(await refusal(whole.subarray(0, whole.length - 1))).not.toBe('read');
  });
  it.each(['/etc/passwd', '../up.png', 'marks/../../up.png', 'c:up.png', 'a\\b.png', './a.png', 'a\nb.png'])(
    'whose file would be unpacked elsewhere is refused: %j',
    async (name) => expect(await refusal(await stored([[name, text('x')]]))).toContain('odd name'),
  );
  it('with two files of one name is refused', async () =>
    expect(await refusal(await stored([FILES[0], FILES[0]]))).toContain('holds bundle.json twice'));
  it('with more files, or more in them, than is allowed is refused before they are unpacked', async () => {
    const many = ['a', 'b', 'c', 'd', 'e'].map((name): [string, Uint8Array] => [name, text(name)]);
    expect(await refusal(await stored(many))).toContain('more than 4 files');
    const bomb = zipSync({ 'zeros.bin': new Uint8Array(64 * 1024 * 1024) }, { level: 9 });
    expect(bomb.length).toBeLessThan(100_000);
    expect(await refusal(bomb)).toContain('more than 3 MB');
  });
  it.each([
    ['empty', new Uint8Array(0)],
    ['no archive', text('%PDF-1.7')],
    ['its head alone', text('PK\u0003\u0004')],
  ])('%s is refused', async (_, bytes) => expect(await refusal(bytes)).toContain('no whole ZIP archive'));
});

import { crc32 } from 'node:zlib';
import { passOnExif } from './exif';
import { APP1, EXIF, segmentsOf } from './jpegParts';

/** A written file, its Exif data as it may go on: upright, without the place unless that is asked for. */
export function passOn(bytes: Buffer, keepsLocation: boolean): Buffer {
  const out = Buffer.from(bytes);
  for (const { from, to } of exifIn(out)) {
    const clean = passOnExif(out.subarray(from, to), keepsLocation);
    // Unreadable data may hold anything.
    if (clean) clean.copy(out, from);
    else out.fill(0, from, to);
  }
  if (out.toString('latin1', 1, 4) === 'PNG') renewSums(out);
  return out;
}

/** Where Exif data lies in a file, by its format. */
function* exifIn(out: Buffer): Generator<{ from: number; to: number }> {
  const start = out.toString('latin1', 0, 4);
  if (start.startsWith('II') || start.startsWith('MM')) yield { from: 0, to: out.length };
  else if (start === 'RIFF') {
    for (const { type, from, to } of chunksOf(out, 12, 'RIFF')) {
      // Some writers put the word of JPEG files before it.
      const isWorded = out.toString('latin1', from, from + EXIF.length) === EXIF;
      if (type === 'EXIF') yield { from: isWorded ? from + EXIF.length : from, to };
    }
  } else if (start.endsWith('PNG')) {
    for (const c of chunksOf(out, 8, 'PNG')) if (c.type === 'eXIf') yield c;
  } else {
    for (const { marker, body } of segmentsOf(out)) {
      if (marker !== APP1 || body.toString('latin1', 0, EXIF.length) !== EXIF) continue;
      const from = body.byteOffset - out.byteOffset + EXIF.length;
      yield { from, to: from + body.length - EXIF.length };
    }
  }
}

/** @see RFC 9649, 2.3 (chunks of WebP); PNG specification, third edition, 5.3 */
function* chunksOf(out: Buffer, first: number, format: 'RIFF' | 'PNG') {
  for (let at = first; at + 8 <= out.length;) {
    const isPng = format === 'PNG';
    const length = isPng ? out.readUInt32BE(at) : out.readUInt32LE(at + 4);
    const typeAt = isPng ? at + 4 : at;
    yield { type: out.toString('latin1', typeAt, typeAt + 4), from: at + 8, to: at + 8 + length };
    at += 8 + length + (isPng ? 4 : length % 2);
  }
}

function renewSums(out: Buffer): void {
  for (const { type, from, to } of chunksOf(out, 8, 'PNG'))
    if (type === 'eXIf') out.writeUInt32BE(crc32(out.subarray(from - 4, to)), to);
}

/** Tags of the first directory. @see CIPA DC-008, "Exif 2.32", tables 4 and 5 */
const ORIENTATION = 0x0112;
const LOCATION = 0x8825;
const ENTRY_BYTES = 12;
const BYTES_OF_TYPE = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8];
const MOST_ENTRIES = 1000;

/**
 * A photo's Exif data as it goes on with another picture: upright, without the small picture of before, and without
 * the place where it was taken unless that is asked for.
 * @param tiff  from the byte order mark on
 * @returns null where it cannot be read, and so tells nobody anything
 */
export function passOnExif(tiff: Uint8Array, keepsLocation: boolean): Buffer | null {
  const out = Buffer.from(tiff);
  const order = out.toString('latin1', 0, 2);
  if (out.length < 14 || (order !== 'II' && order !== 'MM')) return null;
  const isLittle = order === 'II';
  const short = (at: number) => (isLittle ? out.readUInt16LE(at) : out.readUInt16BE(at));
  const long = (at: number) => (isLittle ? out.readUInt32LE(at) : out.readUInt32BE(at));
  const putShort = (v: number, at: number) => (isLittle ? out.writeUInt16LE(v, at) : out.writeUInt16BE(v, at));
  try {
    const first = long(4);
    const count = short(first);
    if (count > MOST_ENTRIES) return null;
    // Nothing follows: a small picture would show what is no longer so.
    out.fill(0, first + 2 + count * ENTRY_BYTES, first + 6 + count * ENTRY_BYTES);
    for (let k = count - 1; k >= 0; k--) {
      const at = first + 2 + k * ENTRY_BYTES;
      if (short(at) === ORIENTATION) putShort(1, at + 8);
      if (short(at) !== LOCATION || keepsLocation) continue;
      wipe(out, long(at + 8), { short, long });
      // What comes after moves up; the directory's end moves with it.
      const end = first + 6 + short(first) * ENTRY_BYTES;
      out.copyWithin(at, at + ENTRY_BYTES, end);
      out.fill(0, end - ENTRY_BYTES, end);
      putShort(short(first) - 1, first);
    }
    return out;
  } catch (cause) {
    if (cause instanceof RangeError) return null;
    throw cause;
  }
}

/** Clears a directory, and every value that lies outside of it. */
function wipe(out: Buffer, at: number, read: { short(at: number): number; long(at: number): number }): void {
  const count = Math.min(read.short(at), MOST_ENTRIES);
  for (let k = 0; k < count; k++) {
    const entry = at + 2 + k * ENTRY_BYTES;
    const bytes = (BYTES_OF_TYPE[read.short(entry + 2)] ?? 1) * read.long(entry + 4);
    if (bytes > 4) {
      const from = read.long(entry + 8);
      out.fill(0, from, Math.min(out.length, from + bytes));
    }
  }
  out.fill(0, at, Math.min(out.length, at + 2 + count * ENTRY_BYTES));
}

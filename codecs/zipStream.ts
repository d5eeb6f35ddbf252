/** One file of an archive; its bytes are asked for when their turn has come. */
export interface ZipEntry {
  readonly name: string;
  readonly size: number;
  readonly crc32: number;
  read(): Promise<Uint8Array>;
}

const LOCAL_BYTES = 30;
const CENTRAL_BYTES = 46;
const END_BYTES = 22;
const VERSION = 20;
/** Names are UTF-8. */
const FLAGS = 0x0800;
/** 1 January 2026, as MS-DOS counts days: an archive of the same files has the same bytes. */
const DATE = ((2026 - 1980) << 9) | (1 << 5) | 1;
/** The format's own limit without its 64-bit extension. */
export const MOST_ZIP_BYTES = 0xffffffff;

/** How long the archive will be, bytes. */
export const zipLength = (entries: readonly ZipEntry[]): number =>
  entries.reduce((sum, e) => sum + LOCAL_BYTES + CENTRAL_BYTES + 2 * nameOf(e).length + e.size, END_BYTES);

const nameOf = ({ name }: ZipEntry) => new TextEncoder().encode(name);

/**
 * An archive of stored files, piece by piece; no more than one file is held at a time.
 * @throws Error when a file is not as long as its entry says
 * @see PKWARE, "APPNOTE.TXT: .ZIP File Format Specification" 6.3.10, 4.3.7, 4.3.12 and 4.3.16
 */
export async function* zipStream(entries: readonly ZipEntry[]): AsyncGenerator<Uint8Array> {
  const directory: Uint8Array[] = [];
  let at = 0;
  for (const entry of entries) {
    const name = nameOf(entry);
    const head = new Uint8Array(LOCAL_BYTES + name.length);
    const view = new DataView(head.buffer);
    view.setUint32(0, 0x04034b50, true);
    writeFacts(view, 4, entry, name.length);
    head.set(name, LOCAL_BYTES);
    yield head;
    const bytes = await entry.read();
    if (bytes.length !== entry.size) throw new Error(`${entry.name} has ${bytes.length} bytes, not ${entry.size}`);
    yield bytes;
    directory.push(centralOf(entry, name, at));
    at += head.length + bytes.length;
  }
  for (const part of directory) yield part;
  const end = new Uint8Array(END_BYTES);
  const view = new DataView(end.buffer);
  view.setUint32(0, 0x06054b50, true);
  view.setUint16(8, entries.length, true);
  view.setUint16(10, entries.length, true);
  view.setUint32(
    12,
    directory.reduce((sum, d) => sum + d.length, 0),
    true,
  );
  view.setUint32(16, at, true);
  yield end;
}

function centralOf(entry: ZipEntry, name: Uint8Array, at: number): Uint8Array {
  const part = new Uint8Array(CENTRAL_BYTES + name.length);
  const view = new DataView(part.buffer);
  view.setUint32(0, 0x02014b50, true);
  view.setUint16(4, VERSION, true);
  writeFacts(view, 6, entry, name.length);
  view.setUint32(42, at, true);
  part.set(name, CENTRAL_BYTES);
  return part;
}

// What a local header and an entry of the directory have in common, from the version that is needed on.
function writeFacts(view: DataView, at: number, { size, crc32 }: ZipEntry, nameBytes: number): void {
  view.setUint16(at, VERSION, true);
  view.setUint16(at + 2, FLAGS, true);
  view.setUint16(at + 8, DATE, true);
  view.setUint32(at + 10, crc32, true);
  view.setUint32(at + 14, size, true);
  view.setUint32(at + 18, size, true);
  view.setUint16(at + 22, nameBytes, true);
}

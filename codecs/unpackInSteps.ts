import { type Inflate, constants, createInflate, inflateSync } from 'node:zlib';

/** What Node's unpacker works with inside: so in Node 20, but not promised. */
interface Inside {
  readonly _handle?: Partial<Handle>;
  readonly _writeState?: Uint32Array;
}
interface Handle {
  writeSync(
    flush: number,
    from: Uint8Array,
    fromAt: number,
    fromLength: number,
    to: Uint8Array,
    toAt: number,
    toLength: number,
  ): void;
  onerror: (message: string) => void;
}

/**
 * Unpacks a zlib stream some bytes at a time into the same memory, which a caller looks at before it is written to
 * again: for a large picture fresh memory takes longer than the unpacking. Where the inside of Node is another, all is
 * unpacked at once.
 * @param mostBytes  how much may come out in all
 * @throws Error with the unpacker's message when the stream is damaged, ends early or holds more
 */
export function unpackInSteps(
  packed: Uint8Array,
  stepBytes: number,
  mostBytes: number,
  visit: (bytes: Uint8Array) => void,
): void {
  const stream = createInflate();
  try {
    const { _handle: handle, _writeState: left } = stream as Inflate & Inside;
    if (handle?.writeSync && left instanceof Uint32Array)
      unpackInside(handle as Handle, left, packed, Buffer.allocUnsafeSlow(stepBytes), mostBytes, visit);
    else visit(inflateSync(packed, { maxOutputLength: mostBytes }));
  } finally {
    stream.destroy();
  }
}

/** @param left  where the unpacker says how much room and how much input it left over */
function unpackInside(
  handle: Handle,
  left: Uint32Array,
  packed: Uint8Array,
  out: Buffer,
  mostBytes: number,
  visit: (bytes: Uint8Array) => void,
): void {
  let failure: string | null = null;
  handle.onerror = (message) => {
    failure = message;
  };
  let total = 0;
  for (let at = 0, isFull = true; isFull;) {
    handle.writeSync(constants.Z_FINISH, packed, at, packed.length - at, out, 0, out.length);
    if (failure !== null) throw new Error(failure);
    const [outLeft, inLeft] = left;
    total += out.length - outLeft;
    if (total > mostBytes) throw new Error(`more than ${mostBytes} bytes`);
    visit(out.subarray(0, out.length - outLeft));
    at = packed.length - inLeft;
    isFull = outLeft === 0;
  }
}

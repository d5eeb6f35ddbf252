import { type Inflate, constants, createInflate, inflateSync } from 'node:zlib';

/** What Node's unpacker works with inside; the same since Node 8, but not promised. */
interface Inside {
  readonly _handle?: { writeSync?: (flush: number, from: Uint8Array, fromAt: number, fromLength: number, to: Uint8Array, toAt: number, toLength: number) => void; onerror?: (message: string) => void };
  readonly _writeState?: Uint32Array;
}

/**
 * Unpacks a zlib stream some bytes at a time into the same memory, which a caller looks at before it is written to again: for a large
 * picture fresh memory takes longer than the unpacking. Where the inside of Node is another, all is unpacked at once.
 * @param mostBytes  how much may come out in all
 * @throws Error with the unpacker's message when the stream is damaged or ends early
 */
export function unpackInSteps(packed: Uint8Array, stepBytes: number, mostBytes: number, visit: (bytes: Uint8Array) => void): void {
  const stream = createInflate();
  try {
    const inside = stream as Inflate & Inside;
    if (inside._handle?.writeSync && inside._writeState instanceof Uint32Array) unpackInside(inside, packed, Buffer.allocUnsafeSlow(stepBytes), visit);
    else visit(inflateSync(packed, { maxOutputLength: mostBytes }));
  } finally {
    stream.destroy();
  }
}

function unpackInside({ _handle: handle, _writeState: left }: Inside, packed: Uint8Array, out: Buffer, visit: (bytes: Uint8Array) => void): void {
  if (!handle?.writeSync || !left) return;
  let failure: string | null = null;
  handle.onerror = (message) => { failure = message; };
  for (let at = 0, isFull = true; isFull; ) {
    handle.writeSync(constants.Z_FINISH, packed, at, packed.length - at, out, 0, out.length);
    if (failure !== null) throw new Error(failure);
    const [outLeft, inLeft] = left;
    visit(out.subarray(0, out.length - outLeft));
    at = packed.length - inLeft;
    isFull = outLeft === 0;
  }
}

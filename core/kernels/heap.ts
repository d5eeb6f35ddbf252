import { CoreError, isCoreError } from '../errors';
import { BINARY } from './binary';
import { ARGUMENT_BYTES, type Kernels, type RawKernels, bindKernels } from './interface';

export type { Kernels };

/** Arrays that kernels read and change. */
export type View = Uint8Array | Int8Array | Uint16Array | Int32Array | Float32Array | Float64Array;

interface Memory {
  readonly buffer: ArrayBuffer;
  grow(pages: number): number;
}
interface WebAssemblyHost {
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { readonly exports: RawKernels };
  Memory: new (size: { initial: number; maximum: number }) => Memory;
}

// Core is compiled without the types of any host; these are the same on all of ours.
const host = globalThis as unknown as {
  WebAssembly: WebAssemblyHost;
  atob(text: string): string;
  Buffer?: { from(text: string, encoding: 'base64'): Uint8Array };
};

const PAGE = 65536;
const MOST_PAGES = 65536;
/** Engines take all of it for used, also what nobody writes to, and clear up their own memory the sooner. */
const FIRST_PAGES = 64;
/** More than this is given back when the work is done. */
const KEPT_PAGES = 4096;
/** The first page holds the kernels' own constants, and at its end the arguments of the call under way. */
const BASE = PAGE;
const ARGUMENTS_AT = PAGE - Math.ceil(ARGUMENT_BYTES / 8) * 8;
const ALIGNMENT = 16;

interface Heap {
  readonly kernels: Kernels;
  readonly memory: Memory;
  /** Cleared arrays and copies go up from the beginning: where the next one goes. */
  low: number;
  /** Lists and stacks, most of which nobody ever writes to, go down from the end. */
  high: number;
  /** How much the work at hand may take. */
  promised: number;
  /** From and to of what was ever handed out, in order and apart; all else is 0. */
  soiled: [from: number, to: number][];
  /** Where a guard stands behind each array that was handed out and is not ended yet. */
  guards: number[];
  depth: number;
  /** A kernel broke off, was given nonsense or wrote where it must not: nothing here is to be trusted any more. */
  isSpoiled: boolean;
}

let compiled: object | null = null;
let heap: Heap | null = null;

function openHeap(): Heap {
  if (heap) return heap;
  compiled ??= new host.WebAssembly.Module(binary());
  const memory = new host.WebAssembly.Memory({ initial: FIRST_PAGES, maximum: MOST_PAGES });
  const abort = () => {
    throw new Error('A kernel broke off.');
  };
  // Growing takes the buffer away from under a view of it.
  let view = new DataView(memory.buffer);
  const current = () => (view.buffer === memory.buffer ? view : (view = new DataView(memory.buffer)));
  // Within this the kernels' own constants would be written over.
  const isPlace = (at: number) => at >= BASE && at < memory.buffer.byteLength;
  const { exports } = new host.WebAssembly.Instance(compiled, { env: { memory, abort } });
  heap = {
    kernels: bindKernels(exports, current, ARGUMENTS_AT, isPlace),
    memory,
    low: BASE,
    high: memory.buffer.byteLength,
    promised: 0,
    soiled: [],
    guards: [],
    depth: 0,
    isSpoiled: false,
  };
  return heap;
}

function binary(): Uint8Array {
  // Where there is a faster way than a loop in code that has not run yet.
  if (host.Buffer) return host.Buffer.from(BINARY, 'base64');
  const text = host.atob(BINARY);
  const out = new Uint8Array(text.length);
  for (let i = 0; i < out.length; i++) out[i] = text.charCodeAt(i);
  return out;
}

/** Compiles the kernels, for whoever has a moment before they are needed. */
export function loadKernels(): void {
  openHeap();
}

/** Gives the kernels' memory back, for whoever will not need it for a while. Does nothing while anybody works there. */
export function releaseMemory(): void {
  if (!inside()) heap = null;
}

/**
 * Has the host find real memory for a part of the first `most` bytes, for whoever has a moment before they are needed:
 * on some machines a fresh page costs more than what is done on it. Does nothing while anybody works there.
 */
export function warmMemory(from: number, to: number, most: number): void {
  if (inside()) return;
  withHeap(most, () => {
    const all = new Uint8Array(buffer());
    // What nobody holds is 0 or will be cleared. Reading first would ask for each page twice.
    for (let at = BASE + from; at < BASE + Math.min(to, most); at += HOST_PAGE) all[at] = 0;
  });
}

/** What hosts hand out memory in, or less. */
const HOST_PAGE = 4096;

/** Stands behind every array; a kernel that writes beyond its array's end changes it. */
const GUARD = 0x5a17c0de;
const GUARD_BYTES = ALIGNMENT;
const aligned = (bytes: number) => Math.ceil(bytes / ALIGNMENT) * ALIGNMENT + GUARD_BYTES;
const taken = (h: Heap) => h.low - BASE + h.memory.buffer.byteLength - h.high;

/** What an array of so many bytes takes up. */
export const roomFor = (...bytes: number[]): number => bytes.reduce((sum, b) => sum + aligned(b), 0);

/**
 * Runs work that may ask for arrays in the kernels' memory, so many bytes in all at any time. All of them end with it:
 * what is to stay is copied first. A kernel that breaks off or writes beyond an array costs the work under way and the
 * whole memory: the next work gets a fresh one. Within such work no more than what was asked for at its beginning is at
 * hand.
 * @throws CoreError 'memory/too-little' when so much memory cannot be had
 */
export function withHeap<T>(bytes: number, work: () => T): T {
  const h = openHeap();
  if (h.depth === 0) promise(h, bytes);
  else checkRoom(h, bytes);
  const [low, high, guarded] = [h.low, h.high, h.guards.length];
  h.depth++;
  try {
    const result = work();
    checkGuards(h, guarded);
    return result;
  } catch (error) {
    // A fault that a person can mend leaves the memory as it is; any other may have spoiled it.
    if (!isCoreError(error)) h.isSpoiled = true;
    throw error;
  } finally {
    h.depth--;
    h.low = low;
    h.high = high;
    h.guards.length = guarded;
    if (h.depth === 0 && (h.isSpoiled || h.memory.buffer.byteLength > KEPT_PAGES * PAGE)) heap = null;
  }
}

function checkGuards(h: Heap, from: number): void {
  const view = new DataView(h.memory.buffer);
  for (const at of h.guards.slice(from))
    for (let k = 0; k < GUARD_BYTES; k += 4)
      if (view.getInt32(at + k, true) !== GUARD) throw new Error('A kernel wrote beyond the end of an array.');
}

function guard(h: Heap, at: number): void {
  new Int32Array(h.memory.buffer, at, GUARD_BYTES / 4).fill(GUARD);
  h.guards.push(at);
}

function promise(h: Heap, bytes: number): void {
  // A page more than asked for, for alignment and for lists of a few numbers.
  h.promised = bytes + PAGE;
  const missing = Math.ceil((BASE + h.promised - h.memory.buffer.byteLength) / PAGE);
  if (missing > 0) {
    try {
      h.memory.grow(missing);
    } catch (cause) {
      throw new CoreError(
        'memory/too-little',
        `The picture needs ${Math.ceil(bytes / 1048576)} MB of memory at once, and so much is ` +
          'not to be had here. Crop it closer, or save it smaller.',
        { bytes },
        { cause },
      );
    }
  }
  h.high = h.memory.buffer.byteLength;
}

// Growing would take the memory away from under every array in it.
function checkRoom(h: Heap, bytes: number): void {
  if (taken(h) + bytes > h.promised)
    throw new Error(`The kernels were promised ${h.promised} bytes and need ${taken(h) + bytes}.`);
}

function take(h: Heap, bytes: number, isCleared: boolean, fromEnd = !isCleared): number {
  if (!Number.isSafeInteger(bytes) || bytes < 0) throw new Error(`There is no array of ${bytes} bytes.`);
  const room = aligned(bytes);
  checkRoom(h, room);
  const at = fromEnd ? h.high - room : h.low;
  if (fromEnd) h.high = at;
  else h.low = at + room;
  if (isCleared) clear(h, at, at + room);
  soil(h, at, at + room);
  guard(h, at + room - GUARD_BYTES);
  return at;
}

function clear(h: Heap, from: number, to: number): void {
  for (const [a, b] of h.soiled)
    if (a < to && b > from) new Uint8Array(h.memory.buffer).fill(0, Math.max(a, from), Math.min(b, to));
}

function soil(h: Heap, from: number, to: number): void {
  const apart = h.soiled.filter(([a, b]) => b < from || a > to);
  const joined = h.soiled.filter(([a, b]) => b >= from && a <= to);
  h.soiled = [...apart, [Math.min(from, ...joined.map(([a]) => a)), Math.max(to, ...joined.map(([, b]) => b))]];
}

/** Arrays, all 0, in the kernels' memory where the caller works there, else plain ones. */
export const bytes = (length: number): Uint8Array =>
  inside() ? new Uint8Array(buffer(), take(openHeap(), length, true), length) : new Uint8Array(length);
export const signedBytes = (length: number): Int8Array =>
  inside() ? new Int8Array(buffer(), take(openHeap(), length, true), length) : new Int8Array(length);
export const shorts = (length: number): Uint16Array =>
  inside() ? new Uint16Array(buffer(), take(openHeap(), length * 2, true), length) : new Uint16Array(length);
export const ints = (length: number): Int32Array =>
  inside() ? new Int32Array(buffer(), take(openHeap(), length * 4, true), length) : new Int32Array(length);
/** The same for lists that are read only as far as they were written. */
export const list = (length: number): Int32Array =>
  inside() ? new Int32Array(buffer(), take(openHeap(), length * 4, false), length) : new Int32Array(length);
export const reals = (length: number): Float32Array =>
  inside() ? new Float32Array(buffer(), take(openHeap(), length * 4, true), length) : new Float32Array(length);

const inside = () => heap !== null && heap.depth > 0;
const buffer = () => openHeap().memory.buffer;

/** A copy of bytes in the kernels' memory; to be called where the caller works there. */
export function copyIn(source: Uint8Array): Uint8Array {
  const h = openHeap();
  const copy = new Uint8Array(h.memory.buffer, take(h, source.length, false, false), source.length);
  copy.set(source);
  return copy;
}

/**
 * The same of a rectangle of a picture or plane, whose rows are `stride` bytes long; the rectangle in bytes across,
 * rows down.
 */
export function copyPartIn(
  source: Uint8Array,
  stride: number,
  part: { x: number; y: number; width: number; height: number },
): Uint8Array {
  if (part.x === 0 && part.width === stride)
    return copyIn(source.subarray(part.y * stride, (part.y + part.height) * stride));
  const h = openHeap();
  const copy = new Uint8Array(
    h.memory.buffer,
    take(h, part.width * part.height, false, false),
    part.width * part.height,
  );
  for (let y = 0; y < part.height; y++) {
    const from = (part.y + y) * stride + part.x;
    copy.set(source.subarray(from, from + part.width), y * part.width);
  }
  return copy;
}

export interface Call {
  readonly k: Kernels;
  /** Where an array that was named lies. */
  at(view: View): number;
  /**
   * Where so many bytes of scratch lie, all 0 unless said otherwise: what is written before it is read need not be
   * cleared.
   */
  scratch(bytes: number, isCleared?: boolean): number;
  /** A view of numbers that a kernel wrote. */
  intsAt(at: number, length: number): Int32Array;
  realsAt(at: number, length: number): Float64Array;
}

/**
 * Runs kernels on arrays that may lie anywhere: those outside of the kernels' memory are copied in, and changed ones
 * back out.
 * @param changes  arrays that the kernels write to
 * @param scratchBytes  how much scratch they ask for in all
 */
export function call<T>(
  reads: readonly View[],
  changes: readonly View[],
  scratchBytes: number,
  run: (c: Call) => T,
): T {
  const away = [...reads, ...changes].filter((v) => v.buffer !== openHeap().memory.buffer);
  return withHeap(roomFor(scratchBytes, ...away.map((v) => v.byteLength)) + 4 * ALIGNMENT, () => {
    const h = openHeap();
    const places = new Map<View, number>();
    for (const view of away) {
      if (places.has(view)) continue;
      const at = take(h, view.byteLength, false, false);
      new Uint8Array(h.memory.buffer, at, view.byteLength).set(
        new Uint8Array(view.buffer, view.byteOffset, view.byteLength),
      );
      places.set(view, at);
    }
    const result = run({
      k: h.kernels,
      at: (view) => places.get(view) ?? view.byteOffset,
      scratch: (n, isCleared = true) => take(h, n, isCleared),
      intsAt: (at, length) => new Int32Array(h.memory.buffer, at, length),
      realsAt: (at, length) => new Float64Array(h.memory.buffer, at, length),
    });
    for (const view of changes) {
      const at = places.get(view);
      if (at !== undefined)
        new Uint8Array(view.buffer, view.byteOffset, view.byteLength).set(
          new Uint8Array(h.memory.buffer, at, view.byteLength),
        );
    }
    return result;
  });
}

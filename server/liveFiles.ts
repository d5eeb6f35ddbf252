import type pg from 'pg';
import type { Logger } from 'pino';
import type { DeliveryEvents } from './deliveryEvents';
import { readBlob } from './store/blobs';
import { countFetches, findLiveFile } from './store/live';

export interface LiveFile {
  readonly name: string;
  readonly tag: string;
  readonly type: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
}

export interface LiveFiles {
  /** The newest finished file of an address; null where there is none. */
  find(key: string): Promise<LiveFile | null>;
  /** One fetch more. */
  count(key: string): void;
  close(): Promise<void>;
}

/** Files that are held in memory, all together; whoever was asked for longest ago goes first. */
const MOST_BYTES = 128 * 1024 * 1024;
/** Should a notice get lost, a file is looked for again after so long. */
const FRESH_MS = 5_000;
const COUNT_MS = 2_000;
/** Addresses that are not there are remembered too, but not too many. */
const MOST_ENTRIES = 5_000;

interface Entry {
  file: LiveFile | null;
  until: number;
  readonly end: () => void;
}

/** Serves live files out of memory: told by the database when one changes, and looking for itself now and then. */
export function createLiveFiles(pool: pg.Pool, events: DeliveryEvents, log: Logger): LiveFiles {
  const held = new Map<string, Entry>();
  const asked = new Map<string, Promise<LiveFile | null>>();
  let heldBytes = 0;
  let counts = new Map<string, number>();

  const drop = (key: string) => {
    const entry = held.get(key);
    if (!entry) return;
    held.delete(key);
    heldBytes -= entry.file?.bytes.length ?? 0;
    entry.end();
  };
  const load = async (key: string): Promise<LiveFile | null> => {
    const before = held.get(key);
    // Listening comes first, so that nothing changes unheard between.
    const end = before?.end ?? events.subscribe(`live ${key}`, () => drop(key));
    const found = await findLiveFile(pool, key);
    let file = before?.file ?? null;
    if (found?.sha !== file?.tag.slice(1, -1) || found?.name !== file?.name)
      file = found && {
        ...{ name: found.name, tag: `"${found.sha}"`, type: found.type },
        bytes: new Uint8Array((await readBlob(pool, found.sha)).bytes),
      };
    if (before) heldBytes -= before.file?.bytes.length ?? 0;
    held.delete(key);
    held.set(key, { file, until: Date.now() + FRESH_MS, end });
    heldBytes += file?.bytes.length ?? 0;
    for (const oldest of held.keys()) {
      if ((heldBytes <= MOST_BYTES && held.size <= MOST_ENTRIES) || oldest === key) break;
      drop(oldest);
    }
    return file;
  };
  const flush = async () => {
    if (counts.size === 0) return;
    const now = counts;
    counts = new Map();
    await countFetches(pool, now).catch((error: unknown) => log.warn({ err: error }, 'could not count fetches'));
  };
  const timer = setInterval(() => void flush(), COUNT_MS);
  timer.unref();

  return {
    async find(key) {
      const entry = held.get(key);
      if (entry && entry.until > Date.now()) return entry.file;
      // Many may ask at the same moment for the same one.
      const before = asked.get(key);
      if (before) return before;
      const loading = load(key).finally(() => asked.delete(key));
      asked.set(key, loading);
      return loading;
    },
    count: (key) => void counts.set(key, (counts.get(key) ?? 0) + 1),
    async close() {
      clearInterval(timer);
      for (const key of [...held.keys()]) drop(key);
      await flush();
    },
  };
}

import pg from 'pg';
import type { Logger } from 'pino';

export interface DeliveryEvents {
  /** Calls back whenever the delivery has moved on, whichever process moved it. @returns a function that ends it */
  subscribe(id: string, listener: () => void): () => void;
  /** Whether the process is about to end. */
  readonly isClosed: boolean;
  close(): Promise<void>;
}

const TRY_AGAIN_MS = 300;

/** One listening connection a process, shared by all its event streams; when it is lost, another one is made. */
export async function listenForDeliveries(config: pg.ClientConfig, log: Logger): Promise<DeliveryEvents> {
  const listeners = new Map<string, Set<() => void>>();
  let isClosed = false;
  let client: pg.Client = await connect();

  async function connect(): Promise<pg.Client> {
    const fresh = new pg.Client({ ...config, connectionTimeoutMillis: 5000, keepAlive: true });
    fresh.on('notification', ({ payload }) => listeners.get(payload ?? '')?.forEach((call) => call()));
    let wasThere = false;
    const lose = (error?: Error) => {
      if (!wasThere || isClosed) return;
      wasThere = false;
      log.warn({ err: error }, 'lost the listening connection');
      void listenAgain();
    };
    fresh.on('error', lose);
    fresh.on('end', () => lose());
    await fresh.connect();
    await fresh.query('listen tassel_delivery');
    wasThere = true;
    return fresh;
  }

  async function listenAgain(): Promise<void> {
    while (!isClosed) {
      await new Promise((r) => setTimeout(r, TRY_AGAIN_MS));
      const fresh = await connect().catch(() => null);
      if (!fresh) continue;
      client = fresh;
      if (isClosed) await fresh.end().catch(() => {});
      // What moved on meanwhile was told to nobody.
      listeners.forEach((calls) => calls.forEach((call) => call()));
      return;
    }
  }

  return {
    subscribe(id, listener) {
      const set = listeners.get(id) ?? new Set();
      set.add(listener);
      listeners.set(id, set);
      return () => {
        set.delete(listener);
        if (set.size === 0) listeners.delete(id);
      };
    },
    get isClosed() {
      return isClosed;
    },
    async close() {
      isClosed = true;
      listeners.forEach((calls) => calls.forEach((call) => call()));
      await client.end().catch(() => {});
    },
  };
}

import pg from 'pg';
import type { Logger } from 'pino';

export interface DeliveryEvents {
  /** Calls back whenever the delivery has moved on, whichever process moved it. @returns a function that ends it */
  subscribe(id: string, listener: () => void): () => void;
  close(): Promise<void>;
}

/** One listening connection a process, shared by all its event streams. */
export async function listenForDeliveries(config: pg.ClientConfig, log: Logger): Promise<DeliveryEvents> {
  const listeners = new Map<string, Set<() => void>>();
  let isClosed = false;
  let client = await connect();

  async function connect(): Promise<pg.Client> {
    const fresh = new pg.Client(config);
    fresh.on('notification', ({ payload }) => listeners.get(payload ?? '')?.forEach((call) => call()));
    fresh.on('error', (error) => {
      if (isClosed) return;
      log.warn({ err: error }, 'lost the listening connection');
      setTimeout(() => {
        if (!isClosed)
          void connect()
            .then((c) => (client = c))
            .catch(() => {});
      }, 1000);
    });
    await fresh.connect();
    await fresh.query('listen tassel_delivery');
    return fresh;
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
    async close() {
      isClosed = true;
      await client.end().catch(() => {});
    },
  };
}

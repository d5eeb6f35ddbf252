import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type pg from 'pg';
import { startDatabase } from '../../scripts/lib/database.mjs';
import { projectDir } from './testDatabase';

/** A PostgreSQL of a test's own, which it may end and start as it likes. */
export interface OwnCluster {
  readonly config: pg.ClientConfig & { database: string };
  /** Ends it as a power cut would. */
  kill(): Promise<void>;
  /** Ends it in order. */
  stop(): Promise<void>;
  start(): Promise<void>;
  remove(): Promise<void>;
}

const FIRST_PORT = 56_480;
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));

export async function createOwnCluster(name: string): Promise<OwnCluster> {
  const folder = `postgres-own-${name}`;
  const open = () => startDatabase({ projectDir, name: folder, firstPort: FIRST_PORT, say: () => {} });
  let running = await open();
  const { port } = running.connection;
  const isAlive = () => {
    try {
      process.kill(running.pid, 0);
      return true;
    } catch {
      return false;
    }
  };
  const start = async () => {
    // What a killed one leaves in shared memory is free once its last child has noticed.
    for (let tries = 0; ; tries++) {
      try {
        running = await startDatabase({ projectDir, name: folder, firstPort: port, say: () => {} });
        return;
      } catch (error) {
        if (tries > 150) throw error;
        await sleep(200);
      }
    }
  };
  return {
    config: { ...running.connection, database: 'tassel' },
    kill: async () => {
      process.kill(running.pid, 'SIGKILL');
      while (isAlive()) await sleep(10);
    },
    stop: () => running.stop(),
    start,
    remove: async () => {
      await running.stop();
      await rm(join(projectDir, '.data', folder), { recursive: true, force: true });
    },
  };
}

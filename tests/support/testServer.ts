import { type ChildProcess, spawn } from 'node:child_process';
import { join } from 'node:path';
import { MEMORY_ENV } from '../../scripts/lib/steps.mjs';
import { createTestDatabase, projectDir } from './testDatabase';

export interface TestServer {
  readonly url: string;
  readonly child: ChildProcess;
}

/**
 * The built server as its own process, on a port that was free.
 * @param options  `asksNames` as behind a proxy that lets others in
 */
export function startServer(
  database: object,
  options: { demo?: boolean; asksNames?: boolean } = {},
): Promise<TestServer> {
  const child = spawn(process.execPath, [join(projectDir, 'dist/server/main.mjs')], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      ...MEMORY_ENV,
      TASSEL_DATABASE: JSON.stringify(database),
      TASSEL_PORT: '0',
      TASSEL_DEMO: options.demo ? '1' : '0',
      TASSEL_ASK_NAMES: options.asksNames ? '1' : '0',
      TASSEL_LOG: process.env.TASSEL_LOG ?? 'error',
      NODE_ENV: 'production',
    },
  });
  return new Promise((resolve, reject) => {
    let text = '';
    child.stdout?.on('data', (chunk: Buffer) => {
      text += chunk.toString();
      const found = /listening on (http:\/\/\S+)/.exec(text);
      if (found) resolve({ url: found[1], child });
    });
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
  });
}

export async function stopServer({ child }: TestServer, signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((r) => child.once('exit', r));
  child.kill(signal);
  await ended;
}

export { createTestDatabase };

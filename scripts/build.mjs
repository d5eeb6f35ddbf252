// Builds dist/server (esbuild) and dist/web (vite).
import { build } from 'esbuild';
import { cpSync, rmSync } from 'node:fs';
import { build as viteBuild } from 'vite';
import { projectDir } from './lib/steps.mjs';

export const serverBuild = {
  absWorkingDir: projectDir,
  entryPoints: { main: 'server/main.ts', worker: 'server/worker.ts', coreWorker: 'server/coreWorker.ts' },
  outdir: 'dist/server',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  sourcemap: 'linked',
  logLevel: 'warning',
};

export async function buildServer() {
  await build(serverBuild);
  cpSync(`${projectDir}/server/migrations`, `${projectDir}/dist/server/migrations`, { recursive: true });
}

if (process.argv[1].endsWith('build.mjs')) {
  rmSync(`${projectDir}/dist`, { recursive: true, force: true });
  await buildServer();
  await viteBuild({ root: `${projectDir}/web`, configFile: `${projectDir}/web/vite.config.ts`, logLevel: 'warn' });
}

// Builds dist/server (esbuild) and dist/web (vite).
import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';
import { build as viteBuild } from 'vite';
import { projectDir } from './lib/steps.mjs';

export const serverBuild = {
  absWorkingDir: projectDir,
  entryPoints: {
    main: 'server/main.ts',
    worker: 'server/worker.ts',
    people: 'server/people.ts',
  },
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

/**
 * Threads are started one after another, so what they load is one script: looked up package by package it takes more
 * than twice as long. Outside stays what has a binary, what the thread's pool brings along, and what few tasks need.
 */
export const threadBuild = {
  ...serverBuild,
  entryPoints: { coreWorker: 'server/coreWorker.ts' },
  packages: 'bundle',
  external: ['sharp', '@resvg/*', 'piscina', 'pdfjs-dist', '@cantoo/pdf-lib', 'pg-native', 'pg-cloudflare'],
  // Packages of the older kind ask for others in the older way.
  banner: {
    js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
  },
};

export async function buildServer() {
  await Promise.all([build(serverBuild), build(threadBuild)]);
  cpSync(`${projectDir}/server/migrations`, `${projectDir}/dist/server/migrations`, { recursive: true });
}

/** The reference of settings is drawn from the registries, and read inside the application. */
function writeReference() {
  const done = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/reference.ts'], {
    cwd: projectDir,
    stdio: 'inherit',
  });
  if (done.status !== 0) throw new Error('The reference could not be written.');
}

if (process.argv[1].endsWith('build.mjs')) {
  rmSync(`${projectDir}/dist`, { recursive: true, force: true });
  writeReference();
  await buildServer();
  await viteBuild({ root: `${projectDir}/web`, configFile: `${projectDir}/web/vite.config.ts`, logLevel: 'warn' });
  const proof = `${projectDir}/web/proof`;
  await viteBuild({ root: proof, configFile: `${proof}/vite.config.ts`, logLevel: 'warn' });
}

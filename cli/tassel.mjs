// Command line entry: bundles cli/main.ts on first use (and after a change), then runs it.
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Script } from 'node:vm';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const cache = join(root, '.cache/cli');

// Names a bundle by its sources and when they changed: a short hash (FNV-1a) does, and asks for no module. Folders have
// no dot in their names.
function stamp() {
  let hash = 0x811c9dc5;
  const mix = (value) => {
    hash = Math.imul(hash ^ value, 0x01000193) >>> 0;
  };
  const walk = (folder) => {
    for (const name of readdirSync(folder)) {
      const path = `${folder}/${name}`;
      if (!name.includes('.')) walk(path);
      else if (!name.endsWith('.test.ts')) {
        for (let k = 0; k < name.length; k++) mix(name.charCodeAt(k));
        const { mtimeMs } = statSync(path);
        mix(mtimeMs / 1000);
        mix((mtimeMs % 1000) * 1000);
      }
    }
  };
  for (const folder of ['core', 'cli', 'codecs']) walk(join(root, folder));
  return hash.toString(16);
}

// The decoder's script goes into the bundle, whose compiled form is kept: loaded from its seventy files it would take a
// sixth of a short call. What it asks for from another folder is a build from source, which npm ci does not make.
const wholeDecoder = {
  name: 'whole decoder',
  setup(build) {
    build.onResolve({ filter: /^sharp$/ }, () => ({ path: createRequire(import.meta.url).resolve('sharp') }));
    build.onLoad({ filter: /sharp[\\/]dist[\\/]sharp\.cjs$/ }, ({ path }) => ({
      contents: readFileSync(path, 'utf8').replaceAll('require(`../src/', '[require][0](`../src/'),
    }));
  },
};

const BANNER = `const bundleUrl = require('node:url').pathToFileURL(process.env.TASSEL_BUNDLE).href;
const loadNow = globalThis.loadModule ?? ((name) => import(name));`;

const folder = join(cache, stamp());
const bundle = join(folder, 'main.cjs');
if (!existsSync(bundle)) {
  const { build } = await import('esbuild').catch(() => {
    console.error('tassel: the packages are not installed; run npm ci first');
    process.exit(1);
  });
  // Made beside and moved into place, so that two first calls at once do not meet half a bundle.
  const own = `${folder}.${process.pid}.tmp`;
  await build({
    absWorkingDir: root,
    entryPoints: { main: 'cli/main.ts' },
    outdir: own,
    outExtension: { '.js': '.cjs' },
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'cjs',
    // What only some verbs need stays outside: it is loaded when it is called for.
    external: [
      '@img/sharp-*',
      '@resvg/*',
      'pdfjs-dist',
      '@cantoo/pdf-lib',
      'opentype.js',
      'saxes',
      'svgpath',
      'utif2',
      'jpeg-js',
      'fast-png',
    ],
    define: { 'import.meta.url': 'bundleUrl' },
    banner: { js: BANNER },
    plugins: [wholeDecoder],
    minify: true,
    logLevel: 'error',
  });
  const text = readFileSync(join(own, 'main.cjs'), 'utf8');
  writeFileSync(join(own, 'main.cjs'), text.replaceAll('import("', 'loadNow("'));
  mkdirSync(cache, { recursive: true });
  for (const old of readdirSync(cache))
    if (!old.endsWith('.tmp')) rmSync(join(cache, old), { recursive: true, force: true });
  try {
    renameSync(own, folder);
  } catch {
    rmSync(own, { recursive: true, force: true }); // another call was first
  }
}
process.env.TASSEL_BUNDLE = bundle;
process.env.TASSEL_ROOT = root;

// What the engine compiled for a verb last time is kept beside the bundle; it takes another version's for what it is,
// and compiles anew.
const verb = process.argv.includes('--help') ? null : /^[a-z]+$/.exec(process.argv[2] ?? '');
const keep = verb && join(folder, `${verb[0]}.compiled`);
const cachedData = keep && existsSync(keep) ? readFileSync(keep) : undefined;
// A script from the engine's own keeping cannot load modules by itself.
globalThis.loadModule = (name) => import(name);
const script = new Script(`(function (exports, require, module) {${readFileSync(bundle, 'utf8')}\n})`, {
  filename: bundle,
  cachedData,
});
const module = { exports: {} };
script.runInThisContext()(module.exports, createRequire(bundle), module);
process.exitCode = await module.exports.run(process.argv.slice(2));
if (keep && process.exitCode === 0 && (!cachedData || script.cachedDataRejected)) {
  const own = `${keep}.${process.pid}.tmp`;
  try {
    writeFileSync(own, script.createCachedData());
    renameSync(own, keep);
  } catch {
    rmSync(own, { force: true }); // it can be done without, and another call may have cleared the folder away
  }
}

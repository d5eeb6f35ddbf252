// Command line entry: bundles cli/main.ts on first use (and after a change), then runs it.
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const cache = join(root, '.cache/cli');

// Names a bundle, no more: a short hash (FNV-1a) does, and asks for no module.
function stamp() {
  let hash = 0x811c9dc5;
  const update = (text) => {
    for (let k = 0; k < text.length; k++) hash = Math.imul(hash ^ text.charCodeAt(k), 0x01000193) >>> 0;
  };
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) walk(path);
      else if (/\.(ts|mjs)$/.test(entry.name) && !entry.name.endsWith('.test.ts')) update(`${path} ${statSync(path).mtimeMs}\n`);
    }
  };
  for (const folder of ['core', 'cli', 'server/codecs']) walk(join(root, folder));
  return hash.toString(16);
}

// The package's one CommonJS file loads in two thirds of the time that its many modules take.
const sharpAsCommonJs = {
  name: 'sharp-as-common-js',
  setup(build) {
    build.onResolve({ filter: /^sharp$/ }, () => ({ path: 'sharp', namespace: 'common-js' }));
    build.onLoad({ filter: /.*/, namespace: 'common-js' }, () => ({ contents: "import { createRequire } from 'node:module'; export default createRequire(import.meta.url)('sharp');" }));
  },
};

const folder = join(cache, stamp());
const bundle = join(folder, 'main.mjs');
if (!existsSync(bundle)) {
  const { build } = await import('esbuild').catch(() => {
    console.error('tassel: the packages are not installed; run npm ci first');
    process.exit(1);
  });
  // Made beside and moved into place, so that two first calls at once do not meet half a bundle.
  const own = `${folder}.${process.pid}.tmp`;
  await build({
    absWorkingDir: root, entryPoints: { main: 'cli/main.ts' }, outdir: own, outExtension: { '.js': '.mjs' }, bundle: true, splitting: true,
    platform: 'node', target: 'node20', format: 'esm', packages: 'external', minify: true, logLevel: 'error',
    plugins: [sharpAsCommonJs],
  });
  mkdirSync(cache, { recursive: true });
  for (const old of readdirSync(cache)) if (!old.endsWith('.tmp')) rmSync(join(cache, old), { recursive: true, force: true });
  try {
    renameSync(own, folder);
  } catch {
    rmSync(own, { recursive: true, force: true }); // another call was first
  }
}
process.env.TASSEL_BUNDLE = bundle;
await import(pathToFileURL(bundle).href);

// Command line entry: bundles cli/main.ts on first use (and after a change), then runs it.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const cache = join(root, '.cache/cli');

function stamp() {
  const hash = createHash('sha1');
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) walk(path);
      else if (entry.name.endsWith('.ts') && !entry.name.endsWith('.test.ts')) hash.update(`${path} ${statSync(path).mtimeMs}\n`);
    }
  };
  for (const folder of ['core', 'cli', 'server/codecs']) walk(join(root, folder));
  return hash.digest('hex').slice(0, 16);
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
    platform: 'node', target: 'node20', format: 'esm', packages: 'external', minifySyntax: true, minifyWhitespace: true, logLevel: 'error',
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

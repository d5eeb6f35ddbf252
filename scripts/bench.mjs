// npm run bench: accuracy and speed beside plain baselines; with --browser also the speed of the screen on 24
// megapixels. npm run bench -- --strokes: 200 strokes by brush on 8 megapixels. npm run bench -- --server: fifty
// people at once, memory, runners. npm run bench -- --files: 200 files in one delivery beside bare sharp. npm run
// bench -- --place: a mark on photos of 24 megapixels beside bare sharp. npm run bench -- --live: live files beside a
// bare static file.
import { READER_PACKAGES, ensurePackages } from './lib/system.mjs';
import { startDatabase } from './lib/database.mjs';
import { MEMORY_ENV, ensureBuild, ensureModules, projectDir, run, say, startServer } from './lib/steps.mjs';

ensureModules();
if (process.argv.includes('--server')) {
  ensurePackages(['postgresql', ...READER_PACKAGES], say);
  ensureBuild();
  const seconds = process.argv.slice(2).filter((a) => /^\d+$/.test(a));
  run(process.execPath, ['--import', 'tsx', 'tests/bench/server.ts', ...seconds], {
    env: { ...process.env, ...MEMORY_ENV },
  });
  process.exit(0);
}
if (process.argv.includes('--live')) {
  ensurePackages(['postgresql', ...READER_PACKAGES], say);
  ensureBuild();
  run(process.execPath, ['--import', 'tsx', 'tests/bench/live.ts'], { env: { ...process.env, ...MEMORY_ENV } });
  process.exit(0);
}
if (process.argv.includes('--files')) {
  ensurePackages(['postgresql', ...READER_PACKAGES], say);
  ensureBuild();
  run(process.execPath, ['--import', 'tsx', 'tests/bench/files.ts'], { env: { ...process.env, ...MEMORY_ENV } });
  process.exit(0);
}
const alone = {
  '--trace': 'trace',
  '--colours': 'traceColours',
  '--rims': 'rims',
  '--place': 'place',
  '--solid-ink': 'solidInk',
};
const asked = Object.keys(alone).find((option) => process.argv.includes(option));
if (asked) {
  const rest = process.argv.slice(2).filter((a) => a !== asked);
  run(process.execPath, ['--import', 'tsx', `bench/${alone[asked]}.ts`, ...rest]);
  process.exit(0);
}
const hasStrokes = process.argv.includes('--strokes');
const words = process.argv.slice(2).filter((a) => a !== '--browser');
if (!hasStrokes) run(process.execPath, ['--import', 'tsx', 'bench/main.ts', ...words]);
if (hasStrokes || process.argv.includes('--browser')) {
  ensurePackages(['postgresql', ...READER_PACKAGES, 'chromium'], say);
  ensureBuild();
  const database = await startDatabase({ projectDir, name: 'postgres-bench', firstPort: 56480, say });
  const env = {
    TASSEL_DATABASE: JSON.stringify({ ...database.connection, database: `bench_${Date.now()}` }),
    TASSEL_DEMO: '0',
  };
  const { child, url } = await startServer({ env, quiet: true });
  try {
    run(process.execPath, ['--import', 'tsx', `tests/bench/${hasStrokes ? 'strokes' : 'browser'}.ts`, url]);
  } finally {
    child.kill('SIGTERM');
    await new Promise((r) => child.once('exit', r));
    await database.stop();
  }
}

// npm test: set-up, a database of its own, type check, lint, then unit, command line, API and browser tests.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { TEST_PACKAGES, ensurePackages } from './lib/system.mjs';
import { startDatabase } from './lib/database.mjs';
import { ensureBuild, ensureModules, projectDir, say } from './lib/steps.mjs';

const total = { passed: 0, failed: 0 };
const filter = process.argv.slice(2);

/** Checks that are whole programs, each of which counts as one: two at a time, each speaking at its end. */
async function checkAll(checks) {
  const left = [...checks];
  const turn = async () => {
    for (let next = left.shift(); next; next = left.shift()) {
      const [name, ...args] = next;
      const { status, text } = await runQuietly(args);
      say(name);
      process.stdout.write(text);
      total[status === 0 ? 'passed' : 'failed']++;
    }
  };
  await Promise.all([turn(), turn()]);
}

function runQuietly(args) {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, args, { cwd: projectDir, stdio: ['ignore', 'pipe', 'pipe'] });
    let text = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (text += part));
    child.once('close', (status) => resolve({ status, text }));
  });
}

function runVitest(env) {
  const report = join(projectDir, 'tests/out/report.json');
  mkdirSync(join(projectDir, 'tests/out'), { recursive: true });
  rmSync(report, { force: true });
  const args = [
    'node_modules/vitest/vitest.mjs',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
    ...filter,
  ];
  const { status } = spawnSync(process.execPath, args, {
    cwd: projectDir,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  if (!existsSync(report)) {
    total.failed++;
    return;
  }
  const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
  total.passed += numPassedTests;
  if (status !== 0 && numFailedTests === 0) say('Every test passed, but the run itself did not: see the errors above.');
  // A file that could not even be read holds no failed test, and must count all the same.
  total.failed += Math.max(numFailedTests, numFailedTests === 0 && (numFailedTestSuites > 0 || status !== 0) ? 1 : 0);
}

let database = null;
try {
  ensurePackages(['postgresql', 'chromium', ...TEST_PACKAGES], say);
  ensureModules();
  ensureBuild();
  database = await startDatabase({ projectDir, name: 'postgres-test', firstPort: 55480, durable: false, say });
  if (filter.length === 0) {
    const tsc = ['node_modules/typescript/bin/tsc', '-p'];
    await checkAll([
      ['Lint', 'node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'],
      ['Type check: .', ...tsc, 'tsconfig.json'],
      ['Type check: web', ...tsc, 'web/tsconfig.json'],
      ['Type check: core', ...tsc, 'core/tsconfig.json'],
      ['Format', 'scripts/format.mjs', '--check'],
    ]);
  }
  runVitest({ TASSEL_TEST_DATABASE: JSON.stringify(database.connection) });
} catch (error) {
  say(error.message);
  total.failed++;
} finally {
  await database?.stop();
}
console.log(`\n${total.passed} passed, ${total.failed} failed`);
process.exit(total.failed === 0 && total.passed > 0 ? 0 : 1);

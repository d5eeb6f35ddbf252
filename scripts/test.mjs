// npm test: set-up, a database of its own, type check, lint, then unit, command line, API and browser tests.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { TEST_PACKAGES, ensurePackages } from './lib/system.mjs';
import { startDatabase } from './lib/database.mjs';
import { ensureBuild, ensureModules, projectDir, say } from './lib/steps.mjs';

const total = { passed: 0, failed: 0 };
const filter = process.argv.slice(2);

/** Checks that are whole programs, each of which counts as one; lanes go side by side, each speaking at its end. */
const checkAll = (lanes) => Promise.all(lanes.map(checkInTurn));

async function checkInTurn(checks) {
  for (const [name, ...args] of checks) {
    const { status, text } = await runQuietly(args);
    say(name);
    process.stdout.write(text);
    total[status === 0 ? 'passed' : 'failed']++;
  }
}

function runQuietly(args) {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, args, { cwd: projectDir, stdio: ['ignore', 'pipe', 'pipe'] });
    let text = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (text += part));
    child.once('close', (status) => resolve({ status, text }));
  });
}

// What a real server, database and browser do on a busy machine may come a second late. Files of such tests that fail
// run once more, by themselves, and the end says which: whatever fails then has failed.
const WITH_SERVERS = /\/tests\/(api|browser)\//;
const MOST_AGAIN = 3;

/** Runs files of tests. @returns each file's counts, or null when there is no report, and whether the run was sound */
function runVitest(env, files, name) {
  const report = join(projectDir, `tests/out/${name}.json`);
  mkdirSync(join(projectDir, 'tests/out'), { recursive: true });
  rmSync(report, { force: true });
  const args = [
    'node_modules/vitest/vitest.mjs',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
    ...files,
  ];
  const { status } = spawnSync(process.execPath, args, {
    cwd: projectDir,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  if (!existsSync(report)) return { files: null, isSound: false };
  const { testResults } = JSON.parse(readFileSync(report, 'utf8'));
  return { files: new Map(testResults.map((r) => [r.name, countsOf(r)])), isSound: status === 0 };
}

function countsOf({ status, assertionResults }) {
  const count = (state) => assertionResults.filter((a) => a.status === state).length;
  // A file that could not even be read holds no failed test, and must count all the same.
  return { passed: count('passed'), failed: Math.max(count('failed'), status === 'failed' ? 1 : 0) };
}

function runTests(env) {
  const { files, isSound } = runVitest(env, filter, 'report');
  if (!files) {
    total.failed++;
    return;
  }
  const failed = [...files].filter(([, c]) => c.failed > 0).map(([file]) => file);
  if (failed.length === 0 && !isSound) {
    say('Every test passed, but the run itself did not: see the errors above.');
    total.failed++;
  }
  if (failed.length > 0 && failed.length <= MOST_AGAIN && failed.every((file) => WITH_SERVERS.test(file))) {
    say(`Once more, by themselves: ${failed.map((file) => relative(projectDir, file)).join(', ')}`);
    const again = runVitest(env, failed, 'report-again').files;
    for (const [file, counts] of again ?? []) files.set(file, counts);
  }
  for (const { passed, failed: wrong } of files.values()) {
    total.passed += passed;
    total.failed += wrong;
  }
  const late = failed.filter((file) => files.get(file).failed === 0);
  if (late.length > 0)
    say(`Failed among the others and passed by themselves: ${late.map((f) => relative(projectDir, f)).join(', ')}`);
}

let database = null;
try {
  ensurePackages(['postgresql', 'chromium', ...TEST_PACKAGES], say);
  ensureModules();
  // The build has a processor to spare for them.
  let checks = Promise.resolve();
  if (filter.length === 0) {
    const tsc = ['node_modules/typescript/bin/tsc', '-p'];
    checks = checkAll([
      [
        ['Lint', 'node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'],
        ['Format', 'scripts/format.mjs', '--check'],
      ],
      // The other two build on what the first one writes.
      [
        ['Type check: core', ...tsc, 'core/tsconfig.json'],
        ['Type check: .', ...tsc, 'tsconfig.json'],
        ['Type check: web', ...tsc, 'web/tsconfig.json'],
      ],
    ]);
  }
  ensureBuild();
  database = await startDatabase({ projectDir, name: 'postgres-test', firstPort: 55480, durable: false, say });
  await checks;
  runTests({ TASSEL_TEST_DATABASE: JSON.stringify(database.connection) });
} catch (error) {
  say(error.message);
  total.failed++;
} finally {
  await database?.stop();
}
console.log(`\n${total.passed} passed, ${total.failed} failed`);
process.exit(total.failed === 0 && total.passed > 0 ? 0 : 1);

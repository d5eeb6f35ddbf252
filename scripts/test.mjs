// npm test: set-up, a database of its own, type check, lint, then unit, command line, API and browser tests.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { TEST_PACKAGES, ensurePackages } from './lib/system.mjs';
import { startDatabase } from './lib/database.mjs';
import { ensureBuild, ensureModules, projectDir, say } from './lib/steps.mjs';

const total = { passed: 0, failed: 0 };
const filter = process.argv.slice(2);

/** A check that is a whole program: it counts as one. */
function check(name, command, args) {
  say(name);
  const ok = spawnSync(command, args, { cwd: projectDir, stdio: 'inherit' }).status === 0;
  total[ok ? 'passed' : 'failed']++;
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
    for (const folder of ['core', 'web', '.'])
      check(`Type check: ${folder}`, process.execPath, [
        'node_modules/typescript/bin/tsc',
        '-p',
        folder === '.' ? 'tsconfig.json' : `${folder}/tsconfig.json`,
      ]);
    check('Lint', process.execPath, ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']);
    check('Format', process.execPath, ['scripts/format.mjs', '--check']);
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

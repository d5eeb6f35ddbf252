// npm run kills -- TIMES [SEED]: the long form of tests/api/kills.test.ts. Needs a build and Debian's PostgreSQL.
import { killRun } from './killRun';

const [times = 200, seed = 11] = process.argv.slice(2).map(Number);
process.env.TASSEL_LOG ??= 'fatal';
const report = await killRun(times, seed, (line) => process.stdout.write(`${line}\n`));
process.stdout.write(`${JSON.stringify(report, null, 2)}\n`);
process.exit(report.faults.length === 0 ? 0 : 1);

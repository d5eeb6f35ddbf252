// npm run fuzz -- MINUTES [SEED]: the long form of tests/api/fuzz.test.ts, on a PostgreSQL of its own.
import { fuzzRun } from './fuzzRun';
import { createOwnCluster } from './ownCluster';

const [minutes = 5, seed = Date.now() % 1_000_000] = process.argv.slice(2).map(Number);
process.env.TASSEL_LOG ??= 'error';
const REST_MS = 70_000;
const cluster = await createOwnCluster(`fuzz-${seed}`);
try {
  const report = await fuzzRun(cluster.config, minutes * 60_000, seed, REST_MS);
  process.stdout.write(`${JSON.stringify({ seed, ...report }, null, 2)}\n`);
  process.exitCode = report.faults.length === 0 ? 0 : 1;
} finally {
  await cluster.remove();
}

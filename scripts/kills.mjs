// npm run kills -- TIMES [SEED]: kills server and database at random moments and looks what is lost.
import { READER_PACKAGES, ensurePackages } from './lib/system.mjs';
import { ensureBuild, ensureModules, run, say } from './lib/steps.mjs';

ensurePackages(['postgresql', ...READER_PACKAGES], say);
ensureModules();
ensureBuild();
run(process.execPath, ['--import', 'tsx', 'tests/support/kills.ts', ...process.argv.slice(2)]);

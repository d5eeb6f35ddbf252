// npm run fuzz -- MINUTES [SEED]: changed files, odd recipes and odd bodies against a server of its own.
import { READER_PACKAGES, ensurePackages } from './lib/system.mjs';
import { ensureBuild, ensureModules, run, say } from './lib/steps.mjs';

ensurePackages(['postgresql', ...READER_PACKAGES], say);
ensureModules();
ensureBuild();
run(process.execPath, ['--import', 'tsx', 'tests/support/fuzz.ts', ...process.argv.slice(2)]);

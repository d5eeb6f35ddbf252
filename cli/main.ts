import { isMainThread, workerData } from 'node:worker_threads';
import { CoreError, isCoreError } from '../core/errors';
import type { Command } from './command';
import { runAsWorker } from './folderWorkers';
import { inspect } from './inspect';
import { cutout } from './cutout';

const commands: readonly Command[] = [inspect, cutout];

const overview = () => `tassel: clean transparent artwork from logos and signatures

${commands.map((c) => `  ${c.verb.padEnd(10)}${c.summary}`).join('\n')}

tassel <verb> --help tells what each takes.`;

/** @returns the exit code: 0 only when everything asked for was done and checked */
async function main(argv: readonly string[]): Promise<number> {
  const [verb, ...rest] = argv;
  if (!verb || verb === '--help' || verb === 'help') {
    console.log(overview());
    return verb ? 0 : 2;
  }
  const command = commands.find((c) => c.verb === verb);
  if (!command) throw new CoreError('cli/usage', `There is no verb "${verb}"; there are ${commands.map((c) => c.verb).join(', ')}.`);
  if (rest.includes('--help')) {
    console.log(command.help);
    return 0;
  }
  return command.run(rest);
}

if (isMainThread) {
  process.exitCode = await main(process.argv.slice(2)).catch((error: unknown) => {
    console.error(`tassel: ${oneLine(error)}`);
    return isCoreError(error) && error.code === 'cli/usage' ? 2 : 1;
  });
} else if (workerData?.isTasselWorker) runAsWorker();

function oneLine(error: unknown): string {
  return (error instanceof Error ? error.message : String(error)).replace(/\s*\n\s*/g, ' ');
}

// A job runner alone, without a web server: any number of them share one database.
import { onStop, openEnvironment, settings } from './environment';
import { startJobs } from './jobs/runner';

const { pool, core, pictures, log, close } = await openEnvironment();
const jobs = await startJobs({ pool, core, pictures, database: settings.database }, log);
process.stdout.write('running jobs\n');

onStop(async () => {
  await jobs.stop();
  await close();
});

import type pg from 'pg';
import type { Logger } from 'pino';
import type { CorePool } from './corePool';
import type { DeliveryEvents } from './deliveryEvents';
import type { JobRunner } from './jobs/runner';
import type { LiveFiles } from './liveFiles';
import type { Door } from './people/door';
import type { PictureMaker } from './sources';

/** What routes work with. */
export interface AppDeps {
  readonly pool: pg.Pool;
  readonly core: CorePool;
  /** One for the whole process, so that nobody makes what somebody else is just making. */
  readonly pictures: PictureMaker;
  /** Null where another process runs the jobs. */
  readonly jobs: Pick<JobRunner, 'isRunning'> | null;
  readonly events: DeliveryEvents;
  readonly live: LiveFiles;
  /** Null on loopback, where nobody is asked for a name. */
  readonly door: Door | null;
  readonly log: Logger;
  /** Folder of the built web application, or null to serve the interface's paths only. */
  readonly webDir: string | null;
  /** Folder of the built page of proof links, or null. */
  readonly proofDir: string | null;
}

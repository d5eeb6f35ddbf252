import type pg from 'pg';
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import sharp from 'sharp';
import { CoreError, type ErrorCode } from '../core/errors';
import { TASK_MEMORY_BYTES, checkNeeds, masterNeeds, pageNeeds } from '../core/recipe/needs';
import type { LineView, LookView, PageView, PdfView } from '../contract/views';
import type {
  BoardTask,
  FileTask,
  KeptTask,
  FilesTask,
  FilesEnd,
  LineTask,
  MadeTask,
  PdfTask,
  PictureTask,
} from './coreTasks';
import type { BundleTask, ReadBundle } from './bundleTasks';
import type { Answer, Envelope } from './coreWorker';
import type { LaidTask, LookTask, OverlayTask, PlaceTask, PreparedRunGround } from './placeTasks';
import type { PdfPageTask, PickTask } from './pdfPages';
import type { LinesTask, SheetTask, SignTask, SurfaceTask } from './printTasks';
import type { PreparedGround } from './prepareGround';
import { MOST_WORKING_PIXELS, type PreparedMark } from './prepareMark';
import type { MarkPictures } from './store/marks';
import type { KeptPicture } from './store/pictures';
import type { LookTask as SlotLookTask, LookedSlot, WallOutTask } from './wallTasks';
import type { MadeFile } from '../codecs/wallFiles';
import { type TaskDesk, type TaskOrder, type Waiting, createTaskDesk } from './taskDesk';

/** Who waits for a task, and how he says that he does not any more. */
export interface Waiter {
  readonly waiting: Waiting;
  readonly signal?: AbortSignal;
}

export interface CorePool {
  /** Large bytes are handed over: the caller has them no more. */
  prepareFile(task: FileTask, waiter?: Waiter): Promise<PreparedMark>;
  prepareMade(task: MadeTask, waiter?: Waiter): Promise<PreparedMark>;
  prepareGround(task: PdfTask, waiter?: Waiter): Promise<PreparedGround>;
  openPdf(task: PdfTask, waiter?: Waiter): Promise<PdfView>;
  describePage(task: PdfPageTask, waiter?: Waiter): Promise<PageView>;
  /** @returns a PNG */
  drawPage(task: PdfPageTask & { longPx: number }, waiter?: Waiter): Promise<Uint8Array<ArrayBuffer>>;
  preparePicked(task: PickTask, waiter?: Waiter): Promise<PreparedMark>;
  /** @returns a colour */
  findMeantGround(task: KeptTask, waiter?: Waiter): Promise<string>;
  makeBoard(task: BoardTask, pictures: MarkPictures, waiter?: Waiter): Promise<Uint8Array<ArrayBuffer>>;
  /** Each file is kept as soon as it is made. @returns false when the delivery was cancelled in the meantime */
  makeFiles(task: FilesTask, what: string, pictures: MarkPictures, waiter?: Waiter): Promise<boolean>;
  makeLine(task: LineTask, pictures: MarkPictures, waiter?: Waiter): Promise<{ blobSha: string; size: number }>;
  makePicture(task: PictureTask, pictures: MarkPictures, waiter?: Waiter): Promise<KeptPicture>;
  prepareRunGround(task: PdfTask, waiter?: Waiter): Promise<PreparedRunGround>;
  lookAtGrounds(task: LookTask, waiter?: Waiter): Promise<LookView[]>;
  /** The file is kept as soon as it is made. */
  placeOnGround(task: PlaceTask, waiter?: Waiter): Promise<void>;
  /** @returns a PNG */
  drawLaid(task: LaidTask, waiter?: Waiter): Promise<Uint8Array<ArrayBuffer>>;
  drawProof(
    task: Omit<LaidTask, 'turnDeg'>,
    waiter?: Waiter,
  ): Promise<{ png: Uint8Array<ArrayBuffer>; ground: string }>;
  makeOverlay(task: OverlayTask, waiter?: Waiter): Promise<Uint8Array<ArrayBuffer>>;
  makeSheet(task: SheetTask, waiter?: Waiter): Promise<Uint8Array<ArrayBuffer>>;
  makeSurface(task: SurfaceTask, waiter?: Waiter): Promise<{ colours: Uint8Array<ArrayBuffer>; mask: Uint8Array }>;
  lookAtSlot(task: SlotLookTask, pictures: MarkPictures, waiter?: Waiter): Promise<LookedSlot>;
  /** @param pictures  of the largest of its marks */
  makeWall(task: WallOutTask, pictures: MarkPictures, waiter?: Waiter): Promise<MadeFile[]>;
  masterSvg(
    task: Pick<PictureTask, 'source' | 'recipe'>,
    pictures: MarkPictures,
    waiter?: Waiter,
  ): Promise<Uint8Array | null>;
  readBundle(task: BundleTask, waiter?: Waiter): Promise<ReadBundle>;
  findPageLines(task: LinesTask, waiter?: Waiter): Promise<LineView[]>;
  signDocument(task: SignTask, waiter?: Waiter): Promise<Uint8Array<ArrayBuffer>>;
  /** @throws CoreError 'memory/too-little' when a page of this size cannot be made here */
  checkPage(what: string, page: { width: number; height: number }): void;
  readonly threads: number;
  readonly counts: TaskDesk['counts'];
  close(): Promise<void>;
}

export interface PoolSettings {
  /** The built worker file. */
  readonly entry: string;
  readonly database: pg.ClientConfig;
  /** Of all tasks together, bytes. */
  readonly memoryBytes?: number;
}

const MB = 1024 * 1024;

/** How long tasks may run. The longest of each kind seen on two slow cores takes less than half. */
const MOST_MS = {
  prepare: 90_000,
  file: 180_000,
  fileMore: 30_000,
  picture: 60_000,
  clip: 3_600_000,
  bundle: 1_800_000,
};

const PERSON: Waiter = { waiting: 'person' };

/** Threads that run core: one for each processor, which files may all have, and one more for people. */
export function createCorePool({ entry, database, memoryBytes = TASK_MEMORY_BYTES }: PoolSettings): CorePool {
  const threads = availableParallelism() + 1;
  const pool = new Piscina({
    filename: entry,
    maxThreads: threads,
    minThreads: 1,
    idleTimeout: 60_000,
    concurrentTasksPerWorker: 1,
    // Waiting for work must not stop a thread's own clock: it lets go of what it kept, and of its connection.
    atomics: 'disabled',
    workerData: { database },
  });
  const desk = createTaskDesk({ threads, memoryBytes });

  const call = <A, T>(name: string, task: A, order: TaskOrder, transferList: ArrayBuffer[] = []): Promise<T> =>
    desk.run(order, async ({ flag, signal }) => {
      const envelope: Envelope<A> = { task, flag, needsBytes: order.needsBytes };
      const answer = (await pool.run(envelope, { name, signal, transferList })) as Answer<T>;
      if (answer.ok) return answer.value;
      throw new CoreError(answer.error.code as ErrorCode, answer.error.message, answer.error.details);
    });

  return {
    async prepareFile(task, { waiting, signal } = PERSON) {
      const needsBytes = await needsOfFile(task.bytes);
      const what = `Taking in ${task.name}`;
      const advice = 'Save it smaller and drop it again.';
      const order = { what, waiting, signal, needsBytes, advice, mostMs: MOST_MS.prepare };
      return call('prepareFile', task, order, movable(task.bytes));
    },
    prepareMade: (task, { waiting, signal } = PERSON) =>
      call('prepareMade', task, {
        what: 'Making this mark',
        waiting,
        signal,
        needsBytes: MADE_BYTES,
        mostMs: MOST_MS.prepare,
      }),
    async prepareGround(task, { waiting, signal } = PERSON) {
      const needsBytes = await needsOfFile(task.bytes);
      const order = { what: `Taking in ${task.name}`, waiting, signal, needsBytes, mostMs: MOST_MS.prepare };
      return call('prepareGround', task, order, movable(task.bytes));
    },
    openPdf: (task, waiter = PERSON) =>
      call('openPdf', task, ofPdf(`Reading ${task.name}`, waiter), movable(task.bytes)),
    describePage: (task, waiter = PERSON) =>
      call('describePage', task, ofPdf(`Reading page ${task.page} of ${task.name}`, waiter)),
    drawPage: (task, waiter = PERSON) =>
      call('drawPage', task, ofPdf(`Drawing page ${task.page} of ${task.name}`, waiter)),
    preparePicked: (task, waiter = PERSON) => call('preparePicked', task, ofPdf('Making this mark', waiter)),
    findMeantGround: (task, { waiting, signal } = PERSON) =>
      call('findMeantGround', task, {
        ...{ what: task.name, waiting, signal, mostMs: MOST_MS.picture, needsBytes: LOOK_BYTES },
      }),
    makeBoard: (task, pictures, { waiting, signal } = PERSON) =>
      call('makeBoard', task, {
        what: 'The board',
        waiting,
        signal,
        needsBytes: BOARD_BYTES + needsOfSource(pictures, task.source.reduction),
        mostMs: MOST_MS.file,
      }),
    async makeFiles(task, what, pictures, { waiting, signal } = PERSON) {
      let needsBytes = needsOfSource(pictures, 1);
      for (let wanted = task.wanted; ;) {
        const order = { what, waiting, signal, mostMs: MOST_MS.file + wanted.length * MOST_MS.fileMore, needsBytes };
        const done = await call<FilesTask, FilesEnd>('makeFiles', { ...task, wanted }, order);
        if (done.end !== 'more') return done.end === 'made';
        ({ needsBytes, left: wanted } = done);
      }
    },
    makeLine: (task, pictures, { waiting, signal } = PERSON) =>
      call('makeLine', task, {
        ...{ what: 'A live file', waiting, signal, mostMs: MOST_MS.file },
        needsBytes: LINE_BYTES + needsOfSource(pictures, 1),
      }),
    makePicture: (task, pictures, { waiting, signal } = PERSON) =>
      call('makePicture', task, {
        what: task.kind === 'master' ? 'The master' : 'A small picture',
        advice: 'Crop the mark closer, or take in a smaller picture of it.',
        waiting,
        signal,
        needsBytes: needsOfSource(pictures, task.source.reduction),
        mostMs: MOST_MS.picture,
      }),
    async prepareRunGround(task, { waiting, signal } = PERSON) {
      const needsBytes = await needsOfFile(task.bytes);
      const order = { what: `Taking in ${task.name}`, waiting, signal, needsBytes, mostMs: MOST_MS.prepare };
      return call('prepareRunGround', task, order, movable(task.bytes));
    },
    lookAtGrounds: (task, { waiting, signal } = PERSON) =>
      call('lookAtGrounds', task, {
        ...{ what: 'Looking at this run', waiting, signal, mostMs: MOST_MS.file },
        needsBytes: LOOK_BYTES,
      }),
    placeOnGround: (task, { waiting, signal } = PERSON) =>
      call('placeOnGround', task, {
        ...{ what: task.ground.name, waiting, signal },
        mostMs: task.ground.kind === 'clip' ? MOST_MS.clip : MOST_MS.file,
        needsBytes: PLACE_BYTES + task.ground.width * task.ground.height * PLACED_BYTES,
      }),
    drawLaid: (task, { waiting, signal } = PERSON) =>
      call('drawLaid', task, {
        ...{ what: 'This variant', waiting, signal, mostMs: MOST_MS.picture, needsBytes: LOOK_BYTES },
      }),
    drawProof: (task, { waiting, signal } = PERSON) =>
      call('drawProof', task, {
        ...{ what: 'This variant', waiting, signal, mostMs: MOST_MS.picture, needsBytes: LOOK_BYTES },
      }),
    makeOverlay: (task, { waiting, signal } = PERSON) =>
      call('makeOverlay', task, {
        ...{ what: 'This overlay', waiting, signal, mostMs: MOST_MS.clip },
        needsBytes: PLACE_BYTES + task.ground.width * task.ground.height * PLACED_BYTES,
      }),
    makeSheet: (task, { waiting, signal } = PERSON) =>
      call('makeSheet', task, {
        ...{ what: 'This sheet', waiting, signal, mostMs: MOST_MS.file, needsBytes: SHEET_BYTES },
        advice: 'Choose fewer pixels per inch, or a smaller sheet.',
      }),
    makeSurface: (task, { waiting, signal } = PERSON) =>
      call('makeSurface', task, {
        ...{ what: 'This picture', waiting, signal, mostMs: MOST_MS.file, needsBytes: LOOK_BYTES },
      }),
    lookAtSlot: (task, pictures, { waiting, signal } = PERSON) =>
      call('lookAtSlot', task, {
        ...{ what: `Looking at ${task.file}`, waiting, signal, mostMs: MOST_MS.picture },
        needsBytes: LOOK_BYTES + needsOfSource(pictures, 1),
      }),
    makeWall: (task, pictures, { waiting, signal } = PERSON) =>
      call('makeWall', task, {
        ...{ what: 'This wall', waiting, signal },
        mostMs: MOST_MS.file + task.slots.length * MOST_MS.fileMore,
        needsBytes: BOARD_BYTES + needsOfSource(pictures, 1),
      }),
    masterSvg: (task, pictures, { waiting, signal } = PERSON) =>
      call('masterSvg', task, {
        ...{ what: 'The master', waiting, signal, mostMs: MOST_MS.file },
        needsBytes: needsOfSource(pictures, 1),
      }),
    readBundle: (task, { waiting, signal } = PERSON) =>
      call(
        'readBundle',
        task,
        {
          ...{ what: `Taking in ${task.name}`, waiting, signal, mostMs: MOST_MS.bundle },
          needsBytes: BUNDLE_BYTES + 3 * task.bytes.length,
        },
        movable(task.bytes),
      ),
    findPageLines: (task, waiter = PERSON) =>
      call('findPageLines', task, ofPdf(`Reading page ${task.page} of ${task.name}`, waiter)),
    signDocument: (task, waiter = PERSON) => call('signDocument', task, ofPdf(`Signing ${task.name}`, waiter)),
    checkPage: (what, page) => checkNeeds(what, pageNeeds(page), memoryBytes),
    threads,
    get counts() {
      return desk.counts;
    },
    close: () => pool.destroy(),
  };
}

/** The largest picture of a bundle, while it is made ready. */
const BUNDLE_BYTES = 400 * MB;
/** A page of what has a live address. */
const LINE_BYTES = 300 * MB;
/** A sheet as large as A2 in print, its mark and its photo. */
const SHEET_BYTES = 700 * MB;
/** Smaller pictures of grounds, and variants of some marks. */
const LOOK_BYTES = 160 * MB;
/** A photo's pixels and its two files, beside the marks that are laid on it. */
const PLACE_BYTES = 200 * MB;
const PLACED_BYTES = 8;
/** The board's own picture, and a photo. */
const BOARD_BYTES = 160 * MB;
/** Of tasks on a PDF file: the file in text and bytes, what pdf.js makes of it, and a mark cut out of its picture. */
const PDF_BYTES = 400 * MB;
const ofPdf = (what: string, { waiting, signal }: Waiter): TaskOrder => ({
  what,
  waiting,
  signal,
  needsBytes: PDF_BYTES,
  mostMs: MOST_MS.prepare,
});

/** Memory that making the master of a source takes at most, bytes. */
const needsOfSource = ({ width, height }: MarkPictures, reduction: number): number =>
  masterNeeds((width * height) / (reduction * reduction));

/** A simulated photograph of the largest width, or the largest drawing. */
const MADE_BYTES = 600 * MB;
const DECODED_BYTES = 4;
/** The working picture while it is encoded, its reduction and the file itself. */
const WORKING_BYTES = 10;

/** A large file is handed over to its thread, not copied: the copy alone would hold the event loop. */
function movable({ buffer, byteLength }: Uint8Array): ArrayBuffer[] {
  const isOwn = buffer instanceof ArrayBuffer && buffer.byteLength === byteLength;
  return isOwn && byteLength > MB ? [buffer] : [];
}

/** What taking in a file takes at most; what its head says is checked later, where it can be refused in words. */
async function needsOfFile(bytes: Uint8Array): Promise<number> {
  const pixels = await sharp(bytes.length > 0 ? bytes : Buffer.alloc(1), { limitInputPixels: false })
    .metadata()
    .then(
      ({ width, height }) => width * height,
      () => 0,
    );
  const working = Math.min(pixels, MOST_WORKING_PIXELS);
  return 24 * MB + 2 * bytes.length + Math.min(pixels, 120e6) * DECODED_BYTES + working * WORKING_BYTES;
}

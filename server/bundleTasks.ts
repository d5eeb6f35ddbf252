import { createHash } from 'node:crypto';
import { readZip } from '../codecs/readZip';
import { decodePicture } from '../codecs/decodePicture';
import { CoreError, isCoreError } from '../core/errors';
import type { TaskHost } from './coreTasks';
import { parseJson } from './parseJson';
import { prepareMark } from './prepareMark';
import { keepBlob } from './store/blobs';
import type { NewMark } from './store/marks';
import { MANIFEST, type Manifest, SUMS, readManifest } from '../contract/bundleManifest';

/** More than this is not taken in at once. */
export const MOST_BUNDLE_MB = 400;
const LIMITS = { files: 20_000, bytes: 2 * MOST_BUNDLE_MB * 1024 * 1024 };

export interface BundleTask {
  readonly bytes: Uint8Array;
  readonly name: string;
}

/** A bundle whose files are kept and whose marks are ready to be stored; nothing refers to them yet. */
export interface ReadBundle {
  readonly manifest: Manifest;
  /** The marks, as their originals make them here. */
  readonly marks: readonly NewMark[];
  /** The SHA-256 of every file that something refers to, by its path. */
  readonly shas: Readonly<Record<string, string>>;
  /** Marks of which the stages start from something else here than where they were bundled. */
  readonly differ: readonly string[];
}

/**
 * Reads a bundle as hostile input: its archive, its sums, its manifest, and every picture in it by decoding it. Nothing
 * is stored but blobs that are collected when nobody comes to refer to them.
 * @throws CoreError 'bundle/…' naming the file
 */
export async function readBundle(host: TaskHost, { bytes, name }: BundleTask): Promise<ReadBundle> {
  try {
    const files = await readZip(bytes, LIMITS);
    checkSums(files);
    const manifest = readManifest(parseManifest(files));
    return await prepare(host, manifest, files);
  } catch (error) {
    if (!isCoreError(error) || ['store/unavailable', 'work/stopped', 'store/full'].includes(error.code)) throw error;
    const code = error.code.startsWith('bundle/') ? error.code : 'bundle/invalid';
    throw new CoreError(code, `${name} is not taken in. ${error.message}`, { file: name }, { cause: error });
  }
}

const wrong = (what: string) => new CoreError('bundle/invalid', what);
const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** Every file of the archive must be listed with its sum, and none else. */
function checkSums(files: ReadonlyMap<string, Uint8Array>): void {
  const sums = files.get(SUMS);
  if (!sums) throw wrong(`The file ${SUMS} is missing, so nothing in it can be checked.`);
  const told = new Map(
    new TextDecoder()
      .decode(sums)
      .split('\n')
      .filter((line) => line !== '')
      .map((line) => {
        const found = /^([0-9a-f]{64}) {2}(.+)$/.exec(line);
        if (!found) throw wrong(`The file ${SUMS} is not right: ${JSON.stringify(line.slice(0, 80))}.`);
        return [found[2], found[1]];
      }),
  );
  for (const [path, bytes] of files) {
    if (path === SUMS) continue;
    if (!told.has(path)) throw wrong(`${path} is not listed in ${SUMS}.`);
    if (told.get(path) !== sha256(bytes)) throw wrong(`${path} was changed or damaged after it was written.`);
  }
  const missing = [...told.keys()].find((path) => !files.has(path));
  if (missing) throw wrong(`${missing} is listed in ${SUMS} but is not there.`);
}

function parseManifest(files: ReadonlyMap<string, Uint8Array>): unknown {
  const own = files.get(MANIFEST);
  if (!own) throw wrong(`The file ${MANIFEST} is missing: this is no bundle.`);
  try {
    return parseJson(new TextDecoder('utf-8', { fatal: true }).decode(own));
  } catch {
    throw wrong(`The file ${MANIFEST} is not JSON.`);
  }
}

async function prepare(
  host: TaskHost,
  manifest: Manifest,
  files: ReadonlyMap<string, Uint8Array>,
): Promise<ReadBundle> {
  const shas: Record<string, string> = {};
  const fileAt = (path: string): Uint8Array => {
    const own = files.get(path);
    if (!own) throw wrong(`${path} is named in the manifest but is not there.`);
    return own;
  };
  const marks: NewMark[] = [];
  const differ: string[] = [];
  for (const mark of manifest.marks) {
    if (host.shouldStop()) throw new CoreError('work/stopped', 'Stopped: nobody waits for it any more.');
    const { original, former, found, master } = mark;
    const known = {
      ...{ markName: mark.name, kind: mark.kind, sentence: found.sentence, isReplacement: true },
    };
    for (const own of former) {
      const ready = await prepareMark(host.db, '', fileAt(own.path), own.name, known);
      if ('mark' in ready) shas[own.path] = ready.mark.originalSha;
    }
    const ready = await prepareMark(host.db, '', fileAt(original.path), original.name, known);
    if (!('mark' in ready)) throw new Error('A mark of a bundle is never taken for another');
    shas[original.path] = ready.mark.originalSha;
    if (ready.mark.workingSha !== mark.working) differ.push(mark.name);
    const { recipe } = mark.revisions[mark.current];
    marks.push({ ...ready.mark, recipe, found: { ...ready.mark.found, notes: found.notes } });
    for (const path of [master.png, master.svg]) if (path) fileAt(path);
  }
  for (const { file } of manifest.grounds) {
    if (!file) continue;
    const bytes = fileAt(file);
    // Kept byte for byte, but only once it is known to be a picture.
    const { kind } = await decodePicture(bytes, file);
    if (kind.id !== 'jpeg') throw wrong(`${file} is no JPEG.`);
    shas[file] = await keepBlob(host.db, bytes, 'image/jpeg');
  }
  for (const { slots } of manifest.walls)
    for (const { original } of slots)
      if (!shas[original]) throw wrong(`${original} hangs on a wall but is no original of the bundle.`);
  return { manifest, marks, shas, differ };
}

import { mkdirSync, readdirSync } from 'node:fs';
import { basename, extname, join, parse } from 'node:path';
import { CoreError } from '../core/errors';
import { type Frame, frameOf } from '../core/placements/readPlacement';
import { PHOTO_ENDINGS } from '../codecs/photos/writePhoto';
import { CLIP_ENDINGS } from '../codecs/video/clip';
import { isFolder } from './command';

export type GroundKind = 'photo' | 'clip' | 'frame';

export interface Target {
  readonly ground: string;
  readonly kind: GroundKind;
  readonly out: string;
}

const endingOf = (path: string) => extname(path).toLowerCase();
export const kindOf = (ground: string): GroundKind =>
  frameOf(ground) ? 'frame' : CLIP_ENDINGS.includes(endingOf(ground)) ? 'clip' : 'photo';

/** Grounds of a command line: photos, clips, folders of photos, and at most one exact frame for all of them. */
export interface Grounds {
  readonly frame: Frame | null;
  /** Empty where the frame is the ground itself. */
  readonly paths: readonly string[];
}

/** @throws CoreError 'cli/usage', 'placement/invalid' */
export function readGrounds(words: readonly string[]): Grounds {
  const frames = words.flatMap((word) => frameOf(word) ?? []);
  if (frames.length > 1) throw new CoreError('cli/usage', 'place takes one exact frame at most.');
  return { frame: frames[0] ?? null, paths: words.filter((word) => !frameOf(word)) };
}

/**
 * Grounds with where each result goes.
 * @param rename  a photo's name without its ending to another, where names go by a pattern
 * @throws CoreError 'cli/usage' where a ground would be written over, 'names/clash' where two results would be one
 */
export function targetsOf(paths: readonly string[], out: string, rename: (name: string) => string): Target[] {
  const isOne = paths.length === 1 && !isFolder(paths[0]);
  if (isOne) {
    const [ground] = paths;
    const kind = kindOf(ground);
    const path = isFolder(out) ? join(out, renamed(ground, rename)) : out;
    const endings = kind === 'clip' ? CLIP_ENDINGS : PHOTO_ENDINGS;
    if (!endings.includes(endingOf(path)))
      throw new CoreError('cli/usage', `--out ends in one of ${endings.join(', ')}, got "${out}".`);
    return [checked({ ground, kind, out: path })];
  }
  const all = paths.flatMap((path) => (isFolder(path) ? photosIn(path) : [path]));
  mkdirSync(out, { recursive: true });
  const targets = all.map((ground) =>
    checked({ ground, kind: kindOf(ground), out: join(out, renamed(ground, rename)) }),
  );
  const seen = new Set<string>();
  for (const target of targets) {
    if (seen.has(target.out))
      throw new CoreError('names/clash', `Two results would be ${target.out}. Use {photo} in the pattern.`);
    seen.add(target.out);
  }
  return targets;
}

function photosIn(folder: string): string[] {
  const photos = readdirSync(folder)
    .filter((name) => PHOTO_ENDINGS.includes(endingOf(name)))
    .sort();
  if (photos.length === 0) throw new CoreError('file/not-readable', `${folder} holds no photos.`);
  return photos.map((name) => join(folder, name));
}

const renamed = (path: string, rename: (name: string) => string) =>
  `${rename(parse(path).name)}${extname(basename(path))}`;

function checked(target: Target): Target {
  if (join(target.ground) === join(target.out))
    throw new CoreError('cli/usage', `${target.ground} would be written over. Choose another --out.`);
  return target;
}

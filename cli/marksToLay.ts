import { existsSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import type { LaidItem } from '../codecs/photos/placeOnPhoto';
import type { Artwork } from '../core/artwork/artwork';
import { layVariant } from '../core/placements/placeItem';
import { type Item, isStrip } from '../core/placements/readPlacement';
import { type Variant, readVariant } from '../core/recipe/recipe';
import { naming } from './command';
import { type OpenMaster, drawVariant, openMaster } from './masterOf';
import { readJsonFile } from './readJsonFile';
import { readSet } from './variants';

/** The variants among which `auto` chooses. */
const AUTO = 'black,reversed,colour';

/** Items with the variants of their marks, each file opened and each variant drawn once. @param near  P.json's path */
export async function marksToLay(items: readonly Item[], near: string | null = null): Promise<LaidItem[]> {
  const masters = new Map<string, OpenMaster>();
  const drawn = new Map<string, Artwork>();
  const out: LaidItem[] = [];
  for (const item of items) {
    if (isStrip(item)) {
      out.push({ item, choices: [] });
      continue;
    }
    const path = found(item.mark, near);
    const choices = await naming(basename(path), async () => {
      const master = masters.get(path) ?? (await openMaster(path, { takesPhotos: true }));
      masters.set(path, master);
      return variantsOf(item.variant, near).map((variant) => {
        const key = JSON.stringify([path, variant]);
        const artwork = drawn.get(key) ?? drawVariant(master, variant, variant.name);
        drawn.set(key, artwork);
        return layVariant({ id: variant.name, name: variant.name }, artwork, item.turnDeg);
      });
    });
    out.push({ item, choices });
  }
  return out;
}

/** A path as it stands, or beside the file that names it. */
const found = (path: string, near: string | null): string =>
  near && !existsSync(path) && existsSync(join(dirname(near), path)) ? join(dirname(near), path) : path;

/** @throws CoreError 'cli/usage' for a variant that there is not */
export function variantsOf(choice: string | readonly string[], near: string | null = null): Variant[] {
  if (typeof choice !== 'string') return choice.flatMap((one) => variantsOf(one, near));
  if (choice === 'auto') return readSet(AUTO);
  return choice.endsWith('.json') ? [readVariant(readJsonFile(found(choice, near)), choice)] : readSet(choice);
}

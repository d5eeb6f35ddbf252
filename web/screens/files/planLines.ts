import { formats } from '../../../core/formats';
import { uniqueNames } from '../../../core/recipe/fileNames';
import { type FileOrder, checkOrder, ordersOf } from '../../../core/recipe/fileOrder';
import { layOutFile, sizeFor } from '../../../core/recipe/makeFile';
import { type MarkParts, nameOfFile } from '../../../core/recipe/planFiles';
import { TASK_MEMORY_BYTES, checkNeeds, pageNeeds } from '../../../core/recipe/needs';
import { type ThinLine, thinLineOf } from '../../../core/recipe/thinLines';
import { pathsEndAt } from '../../../core/recipe/runRecipe';
import type { Part, Recipe, SizeLine } from '../../../core/recipe/recipe';
import type { Extent, FileLayout } from '../../../core/sizes/size';
import type { ArtworkShown } from '../../../worker/protocol';
import { wordsFor } from '../../messages';

/** What a size line will come to, before it is made. */
export interface PlannedLine {
  readonly line: SizeLine;
  /** With its ending; empty where it cannot be made. */
  readonly name: string;
  /** Of a pair the other file's. */
  readonly pairName: string | null;
  /** Its thinnest line where that is too thin for it; null where none is, or while that is not known. */
  readonly thin: ThinLine | null;
  readonly problem: string | null;
  /** Where the mark lies on the page; null before its own size is known. */
  readonly layout: FileLayout | null;
  /** Another file has the same name, so that this one got a number. */
  readonly hasClash: boolean;
  /** The size that the file gets: the line's own, or the one that follows the mark. */
  readonly size: Part;
  /** What stands round the variant is not drawn yet: its size and its name follow. */
  readonly isPending: boolean;
}

/** What is known of variants beyond the master, by the lines that show them. */
export type KnownExtents = ReadonlyMap<string, { readonly extents: Extent }>;
const NOTHING_KNOWN: KnownExtents = new Map();

/** The master that files are planned for; null before there is one. */
type Master = Pick<ArtworkShown, 'exactExtents' | 'hasPaths' | 'outlineExtents'> | null;

/** Every line with its name, its page, and what stands in its way. */
export function planLines(
  { files, variants }: Pick<Recipe, 'files' | 'variants'>,
  names: MarkParts,
  master: Master,
  thinnestPx: number | null = null,
  drawn: KnownExtents = NOTHING_KNOWN,
): PlannedLine[] {
  const known = { pattern: files.pattern, names, variants, master, thinnestPx, drawn };
  const planned = files.lines.map((line) => planLine(line, known));
  const unique = uniqueNames(planned.map((p) => p.name));
  return planned.map((p, k) => (p.name ? { ...p, name: unique[k], hasClash: unique[k] !== p.name } : p));
}

interface Known {
  readonly pattern: string;
  readonly names: MarkParts;
  readonly variants: Recipe['variants'];
  readonly master: Master;
  readonly thinnestPx: number | null;
  readonly drawn: KnownExtents;
}

function planLine(line: SizeLine, { pattern, names, variants, master, thinnestPx, drawn }: Known): PlannedLine {
  const none = {
    ...{ line, name: '', pairName: null, layout: null, thin: null, hasClash: false },
    ...{ size: line.size, isPending: false },
  };
  try {
    const format = formats.get(line.format.id);
    const isOfPaths = format.accepts === 'paths';
    const embeds = format.embeds?.(line.format.params as never) ?? false;
    if (isOfPaths && !embeds && master && !master.hasPaths && !master.outlineExtents)
      return {
        ...none,
        problem: `${format.title} holds paths, and this mark is made of pixels. Trace gives it outlines.`,
      };
    const variant = variants.find((v) => v.id === line.variant) ?? variants[0];
    const end = isOfPaths && !embeds ? pathsEndAt(variant) : null;
    if (end)
      return {
        ...none,
        problem: `${format.title} holds paths, and ${end.why}: ${variant.name} has a ${end.title.toLowerCase()}.`,
      };
    const own = drawn.get(line.id)?.extents;
    const extents = own ?? (isOfPaths ? master?.outlineExtents : null) ?? master?.exactExtents ?? null;
    const [order, pair] = ordersOf(line);
    checkOrder(order);
    const hasPaths = isOfPaths || (master?.hasPaths ?? false);
    const grows = variant.surrounds.length + variant.casts.length > 0;
    if (!extents || (!own && grows && line.fitted && !hasPaths)) return { ...none, problem: null, isPending: true };
    const layout = layOutFile(extents, order, hasPaths);
    if (!isOfPaths) checkNeeds('This file', pageNeeds(layout), TASK_MEMORY_BYTES);
    const page = {
      width: Math.round(layout.width),
      height: Math.round(layout.height),
      ppi: layout.ppi,
    };
    const nameFor = (one: FileOrder) => nameOfFile({ line, variant, order: one }, pattern, names, page);
    return {
      ...none,
      size: sizeFor(extents, order, hasPaths),
      name: nameFor(order),
      pairName: pair ? nameFor(pair) : null,
      problem: null,
      layout,
      // Its width is known of the mark's own pixels; of outlines they are the same but for a fraction.
      thin: thinnestPx !== null ? thinLineOf(thinnestPx, extents, layout, isOfPaths) : null,
    };
  } catch (error) {
    return { ...none, problem: wordsFor(error) };
  }
}

import { formats } from '../../../core/formats';
import { uniqueNames } from '../../../core/recipe/fileNames';
import { type FileOrder, checkOrder, ordersOf } from '../../../core/recipe/fileOrder';
import { layOutFile } from '../../../core/recipe/makeFile';
import { type MarkParts, nameOfFile } from '../../../core/recipe/planFiles';
import { TASK_MEMORY_BYTES, checkNeeds, pageNeeds } from '../../../core/recipe/needs';
import { type ThinLine, thinLineOf } from '../../../core/recipe/thinLines';
import { pathsEndAt } from '../../../core/recipe/runRecipe';
import type { Recipe, SizeLine } from '../../../core/recipe/recipe';
import type { FileLayout } from '../../../core/sizes/size';
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
}

/** The master that files are planned for; null before there is one. */
type Master = Pick<ArtworkShown, 'exactExtents' | 'hasPaths' | 'outlineExtents'> | null;

/** Every line with its name, its page, and what stands in its way. */
export function planLines(
  { files, variants }: Pick<Recipe, 'files' | 'variants'>,
  names: MarkParts,
  master: Master,
  thinnestPx: number | null = null,
): PlannedLine[] {
  const known = { pattern: files.pattern, names, variants, master, thinnestPx };
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
}

function planLine(line: SizeLine, { pattern, names, variants, master, thinnestPx }: Known): PlannedLine {
  const none = { line, name: '', pairName: null, layout: null, thin: null, hasClash: false };
  try {
    const format = formats.get(line.format.id);
    const isOfPaths = format.accepts === 'paths';
    const embeds = format.embeds?.(line.format.params as never) ?? false;
    if (isOfPaths && !embeds && master && !master.hasPaths && !master.outlineExtents)
      return {
        ...none,
        problem: `${format.title} holds paths, and this mark is made of pixels. Trace gives it outlines.`,
      };
    const own = variants.find((v) => v.id === line.variant);
    const end = isOfPaths && !embeds && own ? pathsEndAt(own) : null;
    if (end)
      return {
        ...none,
        problem: `${format.title} holds paths, and ${end.why}: ${own?.name} has a ${end.title.toLowerCase()}.`,
      };
    const extents = (isOfPaths ? master?.outlineExtents : null) ?? master?.exactExtents ?? null;
    const [order, pair] = ordersOf(line);
    checkOrder(order);
    const layout = extents ? layOutFile(extents, order, isOfPaths || master?.hasPaths) : null;
    if (layout && !isOfPaths) checkNeeds('This file', pageNeeds(layout), TASK_MEMORY_BYTES);
    const page = {
      width: Math.round(layout?.width ?? 0),
      height: Math.round(layout?.height ?? 0),
      ppi: layout?.ppi ?? null,
    };
    const variant = own ?? variants[0];
    const nameFor = (one: FileOrder) => nameOfFile({ line, variant, order: one }, pattern, names, page);
    return {
      line,
      name: nameFor(order),
      pairName: pair ? nameFor(pair) : null,
      problem: null,
      layout,
      // Its width is known of the mark's own pixels; of outlines they are the same but for a fraction.
      thin: layout && extents && thinnestPx !== null ? thinLineOf(thinnestPx, extents, layout, isOfPaths) : null,
      hasClash: false,
    };
  } catch (error) {
    return { ...none, problem: wordsFor(error) };
  }
}

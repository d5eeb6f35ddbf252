import { CoreError } from '../errors';
import { formats } from '../formats';
import { purposes } from '../purposes';
import { bytesOfText } from '../text/cutText';
import { type FileOrder, ordersOf } from './fileOrder';
import { type NameParts, nameByPattern } from './fileNames';
import type { Recipe, SizeLine, Variant } from './recipe';

/** What a name can tell of a page once it is laid out. */
export type PageParts = Pick<NameParts, 'width' | 'height' | 'ppi'>;

export interface PlannedFile {
  readonly line: SizeLine;
  readonly variant: Variant;
  readonly order: FileOrder;
  /** The name with its ending, once the page's size is known. */
  name(page: PageParts): string;
}

/** What names tell of all files of a mark. */
export type MarkParts = Pick<NameParts, 'brand' | 'mark' | 'date' | 'version'>;

/**
 * What a recipe's size lines come to, a pair as two files. Lines of one variant stand together, so that its pixels are
 * computed once.
 * @throws CoreError 'names/empty' for a pattern that gives no name, 'names/invalid' for a name that no file may have
 */
export function planFiles(recipe: Pick<Recipe, 'variants' | 'files'>, names: MarkParts): PlannedFile[] {
  const order = new Map(recipe.variants.map((v, k) => [v.id, k]));
  const lines = [...recipe.files.lines].sort((a, b) => (order.get(a.variant) ?? 0) - (order.get(b.variant) ?? 0));
  return lines.flatMap((line) => {
    const variant = recipe.variants[order.get(line.variant) as number];
    return ordersOf(line).map((one): PlannedFile => {
      const nameOf = (page: PageParts) => nameOfFile({ line, variant, order: one }, recipe.files.pattern, names, page);
      nameOf({ width: 1, height: 1, ppi: null });
      return { line, variant, order: one, name: nameOf };
    });
  });
}

/** A file's name with its ending: the line's own, or by the pattern; the second of a pair is named after the first. */
export function nameOfFile(
  { line, variant, order }: Pick<PlannedFile, 'line' | 'variant' | 'order'>,
  pattern: string,
  names: MarkParts,
  page: PageParts,
): string {
  const { extension, endings = [] } = formats.get(line.format.id);
  const purpose = purposes.get(line.purpose).title;
  const byPattern = (text: string) => nameByPattern(text, { ...names, variant: variant.name, purpose, ...page });
  const suffix = order.role === 'mask' ? '-mask' : '';
  if (line.name === undefined) return `${byPattern(pattern)}${suffix}.${extension}`;
  const [stem, ending] = splitName(line.name, [extension, ...endings]);
  const own = stem.includes('{') ? byPattern(stem) : stem;
  return checkName(`${own}${suffix}.${ending ?? extension}`);
}

/** @throws CoreError 'names/invalid' when the ending is that of another format */
function splitName(name: string, own: readonly string[]): [stem: string, ending: string | null] {
  const found = /^(.+)\.([a-z0-9]+)$/i.exec(name);
  if (!found) return [name, null];
  if (own.includes(found[2].toLowerCase())) return [found[1], found[2]];
  const known = formats.all.some((f) => [f.extension, ...(f.endings ?? [])].includes(found[2].toLowerCase()));
  if (!known) return [name, null];
  throw new CoreError('names/invalid', `"${name}" would be a file of another format: this one ends in .${own[0]}.`);
}

// Names that some file systems keep for devices, and characters that some refuse.
const DEVICE = /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i;
const REFUSED = /[/\\:*?"<>|\u0000-\u001f\u007f]/; // eslint-disable-line no-control-regex
const MOST_BYTES = 255;

/** @throws CoreError 'names/invalid' saying why */
export function checkName(name: string): string {
  const bad = REFUSED.exec(name)?.[0];
  const why =
    bad !== undefined
      ? `has a character that no file name may have (${bad < ' ' ? 'a control character' : bad})`
      : DEVICE.test(name)
        ? 'is a name that some systems keep for a device'
        : /^\.|[. ]$|^ /.test(name)
          ? 'begins or ends with a point or a space'
          : bytesOfText(name) > MOST_BYTES
            ? `is longer than ${MOST_BYTES} bytes`
            : null;
  if (why) throw new CoreError('names/invalid', `The file name "${name}" ${why}. Choose another.`, { name });
  return name;
}

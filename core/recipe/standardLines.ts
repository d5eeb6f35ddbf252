import { CoreError } from '../errors';
import { formats } from '../formats';
import { checkValues } from '../params';
import { purposes } from '../purposes';
import { sizes } from '../sizes';
import { type Part, type Recipe, type SizeLine, readPart } from './recipe';
import { lineOfVersion3 } from './upgrade';

/** A size line that is no mark's: its variant is named by its words. */
export interface StandardLine {
  readonly variant: string;
  readonly purpose: string;
  readonly purposeParams?: Part['params'];
  readonly name?: string;
  readonly fitted?: true;
  readonly size: Part;
  readonly format: Part;
}

/** A recipe's lines for a brand to deliver by. */
export const standardOf = ({ files, variants }: Pick<Recipe, 'files' | 'variants'>): StandardLine[] =>
  files.lines.map(({ id: _, variant, ...line }) => ({
    ...line,
    variant: variants.find((v) => v.id === variant)?.name ?? variant,
  }));

/**
 * A mark's lines by a standard set. Lines of variants that the mark has not are left out.
 * @param idOf  a fresh id for the line of that number
 */
export function linesByStandard(
  standard: readonly StandardLine[],
  { variants }: Pick<Recipe, 'variants'>,
  idOf: (k: number) => string,
): SizeLine[] {
  return standard.flatMap(({ variant: word, ...line }, k) => {
    const named =
      variants.find((v) => v.name.toLowerCase() === word.toLowerCase()) ?? variants.find((v) => v.id === word);
    return named ? [{ ...line, id: idOf(k), variant: named.id }] : [];
  });
}

/** @throws CoreError 'request/invalid', 'registry/unknown', 'params/invalid', saying where */
export function readStandardLine(value: unknown, where: string): StandardLine {
  const raw = lineOfVersion3((value ?? {}) as Record<string, unknown>);
  const { variant, purpose, purposeParams, name, fitted, size, format } = raw;
  const isText = (v: unknown): v is string => typeof v === 'string' && v.trim() !== '' && v.length <= 200;
  const isPart = (v: unknown): v is Part => typeof v === 'object' && v !== null && isText((v as Part).id);
  if (!isText(variant) || !isText(purpose) || !isPart(size) || !isPart(format) || (name !== undefined && !isText(name)))
    throw new CoreError('request/invalid', `${where}: expected a line with a variant, a purpose, a size and a format.`);
  const { params } = purposes.get(purpose);
  const own = checkValues(params, purposeParams ?? {}, `${where}.purposeParams`);
  return {
    ...{
      variant,
      purpose,
      size: readPart(sizes, size, `${where}.size`),
      format: readPart(formats, format, `${where}.format`),
    },
    ...(Object.keys(params).length > 0 ? { purposeParams: own } : {}),
    ...(fitted === true ? { fitted } : {}),
    ...(name === undefined ? {} : { name }),
  };
}

/** A line's purpose with what goes with it, kept under a name of the brand's own. */
export interface OwnPurpose extends Omit<StandardLine, 'variant' | 'name'> {
  readonly title: string;
}

/** @throws CoreError as `readStandardLine` */
export function readOwnPurpose(value: unknown, where: string): OwnPurpose {
  const { title, ...rest } = (value ?? {}) as { title?: unknown };
  if (typeof title !== 'string' || title.trim() === '' || title.length > 60)
    throw new CoreError('request/invalid', `${where}: expected a title of at most 60 characters.`);
  const { variant: _, name: __, ...line } = readStandardLine({ ...rest, variant: 'any' }, where);
  return { ...line, title: title.trim() };
}

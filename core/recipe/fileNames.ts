import { CoreError } from '../errors';
import { bytesOfText, cutToBytes } from '../text/cutText';

export interface NameParts {
  readonly brand: string;
  readonly mark: string;
  readonly variant: string;
  readonly purpose: string;
  readonly width: number;
  readonly height: number;
  /** Where the file has a size on paper. */
  readonly ppi: number | null;
  /** The day, such as 2026-03-31. */
  readonly date: string;
  /** Counts the changes of the mark. */
  readonly version: number;
}

export const nameTokens = ['brand', 'mark', 'variant', 'purpose', 'width', 'height', 'ppi', 'date', 'version'] as const;

/** Parts of a name that change while the file goes on: its size, its day, its version. */
const PASSING = /[-_. ]*(?:[x×]?\{(?:width|height|ppi|date|version)\})+/g;

/** The pattern without what may change, for a name that stays the same as long as what it names. */
export const lastingPattern = (pattern: string): string => {
  const left = pattern.replace(PASSING, '').replace(/^[-_. ]+/, '');
  return left.includes('{') ? left : '{mark}-{variant}';
};

// Names that some file systems keep for devices.
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)$/;

/** A word as a part of a file name: lower case, plain letters and digits, hyphens between. */
export const slug = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/['’]/g, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '');

/** File systems take 255 bytes; the rest is for an ending and a number that tells equal names apart. */
const MOST_NAME_BYTES = 235;

interface Piece {
  text: string;
  /** Whether it tells the files of one mark apart, and so is cut last; a size or what stands between is never cut. */
  readonly tells: 'nothing' | 'some' | 'all';
}

const tellsApart: Record<(typeof nameTokens)[number], Piece['tells']> = {
  brand: 'nothing',
  mark: 'nothing',
  variant: 'some',
  purpose: 'some',
  width: 'all',
  height: 'all',
  ppi: 'all',
  date: 'all',
  version: 'all',
};

/**
 * A file's name by a pattern such as `{mark}-{variant}-{width}`, without extension; at most 235 bytes of UTF-8, for
 * which brand, mark and the pattern's own words are cut first.
 * @throws CoreError 'names/empty' when nothing is left, or naming a token that does not exist
 */
export function nameByPattern(pattern: string, parts: NameParts): string {
  const pieces = fillPattern(pattern, parts);
  let name = joinPieces(pieces);
  while (bytesOfText(name) > MOST_NAME_BYTES && shortenPieces(pieces)) name = joinPieces(pieces);
  if (!name) throw new CoreError('names/empty', `The pattern "${pattern}" gives an empty name.`, { pattern });
  return RESERVED.test(name) ? `${name}-file` : name;
}

function fillPattern(pattern: string, parts: NameParts): Piece[] {
  return pattern.split(/(\{[^}]*\})/).map((text) => {
    const token = /^\{([^}]*)\}$/.exec(text)?.[1];
    if (token === undefined) return { text, tells: /[\p{L}\p{N}]/u.test(text) ? 'nothing' : 'all' };
    if (!(nameTokens as readonly string[]).includes(token)) {
      throw new CoreError(
        'names/empty',
        `The naming pattern has {${token}}; there are ${nameTokens.map((t) => `{${t}}`).join(', ')}.`,
        { token },
      );
    }
    return { text: slug(wordOf(parts[token as keyof NameParts])), tells: tellsApart[token as keyof NameParts] };
  });
}

const wordOf = (value: string | number | null) =>
  typeof value === 'number' ? String(Math.round(value)) : (value ?? '');

const joinPieces = (pieces: readonly Piece[]) =>
  pieces
    .map((p) => p.text)
    .join('')
    .split(/[-_. ]*[/\\][-_. ]*/)
    .join('-')
    .replace(/[^\p{L}\p{N}\p{M}_.-]+/gu, '-')
    .replace(/-{2,}/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '');

/** Takes a character from the longest piece that may lose one. @returns whether there was any */
function shortenPieces(pieces: Piece[]): boolean {
  const open = (['nothing', 'some'] as const)
    .map((tells) => pieces.filter((p) => p.tells === tells && p.text !== ''))
    .find((group) => group.length > 0);
  if (!open) return false;
  const longest = open.reduce((a, b) => (bytesOfText(b.text) > bytesOfText(a.text) ? b : a));
  longest.text = cutToBytes(longest.text, bytesOfText(longest.text) - 1);
  return true;
}

/** The same names made different by a number, before their ending, where two would be alike. */
export function uniqueNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    let result = name;
    const [, stem, ending] = /^(.*?)(\.\w+)?$/.exec(name) as RegExpExecArray;
    for (let n = 2; taken.has(result.toLowerCase()); n++) result = `${stem}-${n}${ending ?? ''}`;
    taken.add(result.toLowerCase());
    return result;
  });
}

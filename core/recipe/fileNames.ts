import { CoreError } from '../errors';

export interface NameParts {
  readonly brand: string;
  readonly mark: string;
  readonly variant: string;
  readonly purpose: string;
  readonly width: number;
  readonly height: number;
}

export const nameTokens = ['brand', 'mark', 'variant', 'purpose', 'width', 'height'] as const;

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

/**
 * A file's name by a pattern such as `{mark}-{variant}-{width}`, without extension.
 * @throws CoreError 'names/empty' when nothing is left, or naming a token that does not exist
 */
export function nameByPattern(pattern: string, parts: NameParts): string {
  const filled = pattern.replace(/\{([^}]*)\}/g, (_, token: string) => {
    if (!(nameTokens as readonly string[]).includes(token)) {
      throw new CoreError(
        'names/empty',
        `The naming pattern has {${token}}; there are ${nameTokens.map((t) => `{${t}}`).join(', ')}.`,
        { token },
      );
    }
    return slug(String(parts[token as keyof NameParts]));
  });
  const name = filled
    .split(/[-_. ]*[/\\][-_. ]*/)
    .join('-')
    .replace(/[^\p{L}\p{N}_.-]+/gu, '-')
    .replace(/-{2,}/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '')
    .slice(0, 120);
  if (!name) throw new CoreError('names/empty', `The pattern "${pattern}" gives an empty name.`, { pattern });
  return RESERVED.test(name) ? `${name}-file` : name;
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

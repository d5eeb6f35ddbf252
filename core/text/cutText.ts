// A letter with the marks that stand on it: cutting between them would leave another letter.
const CHARACTERS = /\P{M}\p{M}*|\p{M}+/gu;

/** How many bytes a text takes in UTF-8. */
export function bytesOfText(text: string): number {
  let bytes = 0;
  for (const c of text) {
    const code = c.codePointAt(0) as number;
    bytes += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return bytes;
}

/** The beginning of a text, whole characters of at most so many bytes in UTF-8 in all. */
export const cutToBytes = (text: string, most: number): string => cut(text, most, bytesOfText);

/** The same by code points, as PostgreSQL counts the length of a text. */
export const cutToLength = (text: string, most: number): string => cut(text, most, (c) => [...c].length);

function cut(text: string, most: number, lengthOf: (c: string) => number): string {
  if (lengthOf(text) <= most) return text;
  let length = 0;
  let result = '';
  for (const c of text.match(CHARACTERS) ?? []) {
    length += lengthOf(c);
    if (length > most) break;
    result += c;
  }
  return result;
}

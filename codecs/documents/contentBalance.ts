/** What a page's content leaves open at its end, and closes without having opened. */
export interface Balance {
  /** `q` without their `Q`. */
  readonly open: number;
  /** `Q` without a `q` before them. */
  readonly extra: number;
  /** A text object that is not ended. */
  readonly inText: boolean;
}

const WHITE = new Set([0, 9, 10, 12, 13, 32]);
const DELIMITERS = new Set([...'()<>[]{}/%'].map((c) => c.charCodeAt(0)));
const code = (c: string) => c.charCodeAt(0);

/**
 * @param content  of a page, decoded
 * @see ISO 32000-1, 7.2 (lexical conventions), 8.4.2 (q, Q), 8.9.7 (inline images)
 */
export function balanceOf(content: Uint8Array): Balance {
  let [depth, extra] = [0, 0];
  let inText = false;
  for (const word of wordsOf(content)) {
    if (word === 'q') depth++;
    else if (word === 'Q') {
      if (depth > 0) depth--;
      else extra++;
    } else if (word === 'BT') inText = true;
    else if (word === 'ET') inText = false;
  }
  return { open: depth, extra, inText };
}

/** Operators and numbers, without strings, names, comments and the data of pictures among them. */
function* wordsOf(bytes: Uint8Array): Generator<string> {
  for (let at = 0; at < bytes.length;) {
    const c = bytes[at];
    if (c === code('(')) at = afterString(bytes, at);
    else if (c === code('%')) while (at < bytes.length && bytes[at] !== 10 && bytes[at] !== 13) at++;
    else if (c === code('<') && bytes[at + 1] !== code('<')) while (at < bytes.length && bytes[at++] !== code('>'));
    else if (c === code('/')) {
      at++;
      while (at < bytes.length && !WHITE.has(bytes[at]) && !DELIMITERS.has(bytes[at])) at++;
    } else if (WHITE.has(c) || DELIMITERS.has(c)) at++;
    else {
      const from = at;
      while (at < bytes.length && !WHITE.has(bytes[at]) && !DELIMITERS.has(bytes[at])) at++;
      const word = Buffer.from(bytes.subarray(from, at)).toString('latin1');
      if (word === 'ID') at = afterPicture(bytes, at);
      yield word;
    }
  }
}

function afterString(bytes: Uint8Array, at: number): number {
  let depth = 0;
  for (; at < bytes.length; at++) {
    if (bytes[at] === code('\\')) at++;
    else if (bytes[at] === code('(')) depth++;
    else if (bytes[at] === code(')') && --depth === 0) return at + 1;
  }
  return at;
}

function afterPicture(bytes: Uint8Array, at: number): number {
  for (; at + 2 < bytes.length; at++) {
    const ends = bytes[at + 1] === code('E') && bytes[at + 2] === code('I');
    if (ends && WHITE.has(bytes[at]) && (at + 3 >= bytes.length || WHITE.has(bytes[at + 3]))) return at + 3;
  }
  return bytes.length;
}

import { CoreError } from '../core/errors';

/** Deeper than anything of ours, and shallow enough for whoever walks through it by calling himself. */
const MOST_DEPTH = 40;

/**
 * JSON as it came from outside. PostgreSQL keeps no NUL and no half of a surrogate pair, and nothing of ours is nested
 * deep.
 * @throws CoreError 'request/invalid' saying what is wrong
 */
export function parseJson(text: string): unknown {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (cause) {
    throw new CoreError('request/invalid', 'The request is not JSON.', {}, { cause });
  }
  const open: [value: unknown, depth: number][] = [[value, 0]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [at, depth] = next;
    if (typeof at === 'string') checkText(at);
    if (typeof at !== 'object' || at === null) continue;
    if (depth >= MOST_DEPTH)
      throw new CoreError('request/invalid', `The request is nested more than ${MOST_DEPTH} deep.`);
    if (Array.isArray(at)) for (const child of at) open.push([child, depth + 1]);
    else
      for (const [key, child] of Object.entries(at)) {
        checkText(key);
        open.push([child, depth + 1]);
      }
  }
  return value;
}

function checkText(text: string): void {
  const shown = JSON.stringify(text).slice(0, 60);
  if (text.includes('\0')) throw new CoreError('request/invalid', `A text of the request holds a NUL: ${shown}.`);
  if (!isWhole(text))
    throw new CoreError('request/invalid', `A text of the request holds half of a surrogate pair: ${shown}.`);
}

// As String.prototype.isWellFormed, which not every Node 20 types.
const isWhole = (text: string): boolean =>
  !/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/.test(text);

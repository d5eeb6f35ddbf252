import { SaxesParser } from 'saxes';
import { CoreError } from '../core/errors';

/** What a file of ours may hold, and nothing else. */
const KNOWN = new Set(['svg', 'defs', 'linearGradient', 'radialGradient', 'stop', 'path']);

/**
 * Holds an SVG of ours against what such a file may hold, by an XML parser that knows nothing of drawings.
 * @throws CoreError 'file/read-back'
 */
export function readBackSvg(bytes: Uint8Array, name: string): void {
  const fail = (what: string, cause?: unknown): never => {
    throw new CoreError('file/read-back', `${name} did not read back as written: ${what}.`, { file: name }, { cause });
  };
  const parser = new SaxesParser();
  const tags = new Set<string>();
  const found: { size: { viewBox: string } | null } = { size: null };
  parser.on('error', (cause) => fail(cause.message, cause));
  parser.on('opentag', ({ name: tag, attributes }) => {
    tags.add(tag);
    if (tag === 'svg') found.size = attributes as never;
    if (tag === 'path' && !/^M[\dMLCZ .-]*$/.test(String(attributes.d))) fail('a path holds what no path holds');
  });
  parser.write(new TextDecoder('utf-8', { fatal: true }).decode(bytes)).close();
  const strange = [...tags].find((tag) => !KNOWN.has(tag));
  if (strange) fail(`it holds a ${strange} element`);
  const { viewBox } = found.size ?? fail('it holds no svg element');
  if (!/^0 0 [\d.]+ [\d.]+$/.test(viewBox)) fail(`its view is "${viewBox}"`);
}

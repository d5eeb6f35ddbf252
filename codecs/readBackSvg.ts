import { SaxesParser } from 'saxes';
import { CoreError } from '../core/errors';
import type { ReadBack } from '../core/formats/receipt';

/** What a file of ours may hold, and nothing else. */
const KNOWN = new Set(['svg', 'defs', 'linearGradient', 'radialGradient', 'stop', 'path']);

/** Reads an SVG file back by an XML parser that knows nothing of drawings. @throws CoreError 'file/read-back' */
export function readBackSvg(bytes: Uint8Array, name: string): ReadBack {
  const fail = (what: string, cause?: unknown): never => {
    throw new CoreError('file/read-back', `${name} did not read back as written: ${what}.`, { file: name }, { cause });
  };
  const parser = new SaxesParser();
  const counts = new Map<string, number>();
  const found: { size: { width: string; height: string; viewBox: string } | null } = { size: null };
  parser.on('error', (cause) => fail(cause.message, cause));
  parser.on('opentag', ({ name: tag, attributes }) => {
    counts.set(tag, (counts.get(tag) ?? 0) + 1);
    if (tag === 'svg') found.size = attributes as never;
    if (tag === 'path' && !/^M[\dMLCZ .-]*$/.test(String(attributes.d))) fail('a path holds what no path holds');
  });
  parser.write(new TextDecoder('utf-8', { fatal: true }).decode(bytes)).close();
  const strange = [...counts.keys()].find((tag) => !KNOWN.has(tag) && tag !== 'image' && tag !== 'text');
  if (strange) fail(`it holds a ${strange} element`);
  const { width, height, viewBox } = found.size ?? fail('it holds no svg element');
  if (!/^0 0 [\d.]+ [\d.]+$/.test(viewBox)) fail(`its view is "${viewBox}"`);
  return {
    ...{
      format: 'svg',
      width: parseFloat(width),
      height: parseFloat(height),
      unit: width.endsWith('mm') ? 'mm' : 'px',
    },
    ...{
      bytes: bytes.length,
      ppi: null,
      hasAlpha: true,
      clearShare: null,
      isInterlaced: false,
      isSrgb: true,
      chunks: [],
    },
    ...{ paths: counts.get('path') ?? 0, pictures: counts.get('image') ?? 0, fonts: counts.get('text') ?? 0 },
  };
}

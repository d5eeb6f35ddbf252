import { SaxesParser } from 'saxes';
import { CoreError } from '../../core/errors';

/** An element of an SVG file: its name without a prefix for SVG's own, its attributes, what is in it. */
export interface SvgElement {
  readonly tag: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: SvgElement[];
  /** Letters directly in it. */
  text: string;
}

export const MOST_SVG_BYTES = 10 * 1024 * 1024;
export const MOST_ELEMENTS = 50_000;
export const MOST_DEPTH = 64;

export function refuseSvg(name: string, what: string): never {
  throw new CoreError(
    'intake/unsupported',
    `${name} cannot be taken in as paths: ${what}. Export it as plain filled paths, or as PNG.`,
    { file: name },
  );
}

export function damagedSvg(name: string, what: string, cause?: unknown): never {
  throw new CoreError(
    'intake/damaged',
    `${name} is damaged: ${what}. Ask for the file again, or open and re-export it.`,
    { file: name },
    { cause },
  );
}

/**
 * The elements of an SVG file. Nothing is fetched, no entity but XML's own is known.
 * @throws CoreError 'intake/…' naming the file, what is wrong and what to do
 */
export function readSvgTree(bytes: Uint8Array, name: string): SvgElement {
  if (bytes.length > MOST_SVG_BYTES)
    refuseSvg(name, `it has ${Math.ceil(bytes.length / 1048576)} MB; the most for an SVG file is 10 MB`);
  const text = decodeUtf8(bytes) ?? damagedSvg(name, 'its letters are not UTF-8');
  const root: SvgElement = { tag: '', attributes: {}, children: [], text: '' };
  const stack = [root];
  let count = 0;
  const parser = new SaxesParser();
  parser.on('error', (cause) => damagedSvg(name, cause.message.split('\n')[0], cause));
  parser.on('doctype', (doctype) => {
    if (doctype.includes('[')) refuseSvg(name, 'it declares entities of its own');
  });
  parser.on('opentag', (tag) => {
    if (++count > MOST_ELEMENTS) refuseSvg(name, `it has more than ${MOST_ELEMENTS} elements`);
    if (stack.length > MOST_DEPTH) refuseSvg(name, `its groups are nested more than ${MOST_DEPTH} deep`);
    const element: SvgElement = {
      tag: tag.name.replace(/^svg:/, ''),
      attributes: tag.attributes as Record<string, string>,
      children: [],
      text: '',
    };
    stack[stack.length - 1].children.push(element);
    stack.push(element);
  });
  parser.on('closetag', () => void stack.pop());
  const letters = (more: string) => {
    stack[stack.length - 1].text += more;
  };
  parser.on('text', letters);
  parser.on('cdata', letters);
  parser.write(text).close();
  return root.children.find((e) => e.tag === 'svg') ?? refuseSvg(name, 'it holds no svg element');
}

function decodeUtf8(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
}

/** An element's own properties and all below it, in the order of the file. */
export function* everyElement(element: SvgElement): Generator<SvgElement> {
  yield element;
  for (const child of element.children) yield* everyElement(child);
}

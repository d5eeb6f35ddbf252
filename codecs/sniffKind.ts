export interface FileKind {
  readonly id: 'png' | 'jpeg' | 'webp' | 'tiff' | 'svg';
  readonly title: string;
  readonly mediaType: string;
  readonly endings: readonly string[];
}

const kinds: Record<FileKind['id'], FileKind> = {
  png: { id: 'png', title: 'PNG', mediaType: 'image/png', endings: ['png'] },
  jpeg: { id: 'jpeg', title: 'JPEG', mediaType: 'image/jpeg', endings: ['jpg', 'jpeg', 'jpe', 'jfif'] },
  webp: { id: 'webp', title: 'WebP', mediaType: 'image/webp', endings: ['webp'] },
  tiff: { id: 'tiff', title: 'TIFF', mediaType: 'image/tiff', endings: ['tif', 'tiff'] },
  svg: { id: 'svg', title: 'SVG', mediaType: 'image/svg+xml', endings: ['svg'] },
};

const startsWith = (bytes: Uint8Array, ...magic: number[]) => magic.every((v, k) => bytes[k] === v);
const ascii = (bytes: Uint8Array, from: number, to: number) => String.fromCharCode(...bytes.subarray(from, to));

/** What a file is by its first bytes, whatever its name says; null for anything not taken in. */
export function sniffKind(bytes: Uint8Array): FileKind | null {
  if (startsWith(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return kinds.png;
  if (startsWith(bytes, 0xff, 0xd8, 0xff)) return kinds.jpeg;
  if (ascii(bytes, 0, 4) === 'RIFF' && ascii(bytes, 8, 12) === 'WEBP') return kinds.webp;
  if (startsWith(bytes, 0x49, 0x49, 0x2a, 0) || startsWith(bytes, 0x4d, 0x4d, 0, 0x2a)) return kinds.tiff;
  return isSvg(bytes) ? kinds.svg : null;
}

/** An SVG file is XML text whose first element is `svg`: comments, declarations and a doctype may stand before it. */
function isSvg(bytes: Uint8Array): boolean {
  const head = new TextDecoder().decode(bytes.subarray(0, HEAD_BYTES));
  return /^\uFEFF?\s*(<\?xml[^>]*>|<!--[\s\S]*?-->|<!DOCTYPE[^>[]*(\[[^\]]*\])?[^>]*>|\s)*<(svg:)?svg[\s>]/.test(head);
}
const HEAD_BYTES = 4096;

/** A PDF file is pages, from which something is picked; its head may stand a little after its beginning. */
export const isPdf = (bytes: Uint8Array): boolean =>
  new TextDecoder('latin1').decode(bytes.subarray(0, 1024)).includes('%PDF-');

/** The kind that a file's name claims, or null when the ending says nothing we know. */
export function kindByName(name: string): FileKind | null {
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase();
  return Object.values(kinds).find((k) => ending && k.endings.includes(ending)) ?? null;
}

export const takenIn = Object.values(kinds);

/** A picture of a saved page, in the page's order. */
export interface PagePicture {
  readonly file: File;
}

const isPage = (file: File) => /\.x?html?$/i.test(file.name);
const nameOf = (path: string) => {
  const own = path.replace(/[?#].*$/, '').replace(/^.*[\\/]/, '');
  try {
    return decodeURIComponent(own);
  } catch {
    return own;
  }
};

const ENDINGS: Record<string, string> = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/webp': 'webp',
  'image/gif': 'gif',
  'image/svg+xml': 'svg',
};

/**
 * Files that were dropped together as those that a wall is filled with. A saved page among them says which pictures it
 * shows and in which order; pictures that are written into the page itself become files of their own. Nothing of the
 * page is run.
 */
export async function filesOfDrop(files: readonly File[]): Promise<File[]> {
  const page = files.find(isPage);
  const rest = files.filter((f) => !isPage(f));
  if (!page) return rest;
  const byName = new Map(rest.map((f) => [f.name.toLowerCase(), f]));
  const shown = picturesOfPage(await page.text()).map((p) => ('bytes' in p ? p : byName.get(p.name.toLowerCase())));
  const found = shown.flatMap((p) => (!p ? [] : p instanceof File ? [p] : [toFile(p)]));
  // A page that names none of them says nothing about them.
  return found.length > 0 ? [...new Set(found)] : rest;
}

interface Written {
  readonly name: string;
  readonly type: string;
  readonly bytes: BlobPart;
}
const toFile = ({ name, type, bytes }: Written) => new File([bytes], name, { type });

/** Pictures that a page shows: by the names of their files, or as they are written in it. */
export function picturesOfPage(html: string): ({ readonly name: string } | Written)[] {
  const page = new DOMParser().parseFromString(html, 'text/html');
  const out: ({ readonly name: string } | Written)[] = [];
  for (const own of page.querySelectorAll('img, svg')) {
    if (own.tagName.toLowerCase() === 'svg') {
      if (own.parentElement?.closest('svg')) continue;
      const name = `${slugOf(own.querySelector('title')?.textContent ?? own.getAttribute('aria-label') ?? '')}`;
      const text = own.outerHTML.includes('xmlns=')
        ? own.outerHTML
        : own.outerHTML.replace('<svg', '<svg xmlns="http://www.w3.org/2000/svg"');
      out.push({ name: `${name || `drawing-${out.length + 1}`}.svg`, type: 'image/svg+xml', bytes: text });
      continue;
    }
    const source = own.getAttribute('src') ?? '';
    const written = /^data:([a-z]+\/[a-z+]+)(;base64)?,(.*)$/is.exec(source);
    if (!written) {
      if (nameOf(source)) out.push({ name: nameOf(source) });
      continue;
    }
    const [, type, is64, data] = written;
    const ending = ENDINGS[type.toLowerCase()];
    if (!ending) continue;
    const name = `${slugOf(own.getAttribute('alt') ?? '') || `picture-${out.length + 1}`}.${ending}`;
    out.push({ name, type, bytes: is64 ? bytesOf64(data) : decodeURIComponent(data) });
  }
  return out;
}

const slugOf = (text: string) =>
  text
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);

const bytesOf64 = (data: string): BlobPart => Uint8Array.from(atob(data.replace(/\s/g, '')), (c) => c.charCodeAt(0));

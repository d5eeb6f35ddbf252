import { useEffect, useState } from 'react';
import { type TypeFont, type TypeOptions, setType } from '../../../core/type/setType';
import type { TypefaceId } from '../../../core/type/typefaces';
import type { Path } from '../../../core/vector/path';
import { wordsFor } from '../../messages';
import bricolage from '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-800-normal.woff?url';
import caveat from '@fontsource/caveat/files/caveat-latin-400-normal.woff?url';
import greatVibes from '@fontsource/great-vibes/files/great-vibes-latin-400-normal.woff?url';
import hanken from '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff?url';
import sacramento from '@fontsource/sacramento/files/sacramento-latin-400-normal.woff?url';

const urls: Record<TypefaceId, string> = { 'great-vibes': greatVibes, sacramento, caveat, bricolage, hanken };
const loaded = new Map<TypefaceId, Promise<TypeFont>>();

// The parser is large, so it comes only when type is set.
const loadFont = (id: TypefaceId): Promise<TypeFont> => {
  let font = loaded.get(id);
  if (!font) {
    font = Promise.all([import('opentype.js'), fetch(urls[id]).then((r) => r.arrayBuffer())]).then(
      ([{ default: opentype }, bytes]) => opentype.parse(bytes) as TypeFont,
    );
    font.catch(() => loaded.delete(id));
    loaded.set(id, font);
  }
  return font;
};

/** The type as it will be made, by the very function that the server makes it with. */
export function useTypeset(
  text: string,
  typeface: TypefaceId,
  options: TypeOptions,
): { path: Path | null; problem: string | null } {
  const [font, setFont] = useState<{ id: TypefaceId; font: TypeFont } | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    let isGone = false;
    loadFont(typeface)
      .then((f) => !isGone && setFont({ id: typeface, font: f }))
      .catch((error: unknown) => !isGone && setFailure(wordsFor(error)));
    return () => {
      isGone = true;
    };
  }, [typeface]);
  if (!font || text.trim() === '') return { path: null, problem: failure };
  try {
    return { path: setType(text.split('\n').slice(0, 8), font.font, options), problem: null };
  } catch (error) {
    return { path: null, problem: wordsFor(error) };
  }
}

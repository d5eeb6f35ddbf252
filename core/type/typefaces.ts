import { CoreError } from '../errors';

/**
 * The typefaces that come with the program, all under the SIL Open Font License. Files are those of the Latin subset.
 */
export const typefaces = [
  {
    id: 'great-vibes',
    title: 'Great Vibes',
    kind: 'script',
    file: '@fontsource/great-vibes/files/great-vibes-latin-400-normal.woff',
  },
  {
    id: 'sacramento',
    title: 'Sacramento',
    kind: 'script',
    file: '@fontsource/sacramento/files/sacramento-latin-400-normal.woff',
  },
  { id: 'caveat', title: 'Caveat', kind: 'handwriting', file: '@fontsource/caveat/files/caveat-latin-400-normal.woff' },
  {
    id: 'bricolage',
    title: 'Bricolage Grotesque',
    kind: 'sans',
    file: '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-800-normal.woff',
  },
  {
    id: 'hanken',
    title: 'Hanken Grotesk',
    kind: 'sans',
    file: '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff',
  },
] as const;
export type TypefaceId = (typeof typefaces)[number]['id'];

/** @throws CoreError 'registry/unknown' naming those that there are */
export function findTypeface(id: string): (typeof typefaces)[number] {
  const found = typefaces.find((t) => t.id === id);
  if (found) return found;
  const known = typefaces.map((t) => t.id).join(', ');
  throw new CoreError('registry/unknown', `There is no typeface "${id}"; there are ${known}.`, { id });
}

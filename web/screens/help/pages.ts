// The reference pages as they stand in the project, read when they are asked for.
const files = import.meta.glob<string>('../../../docs/reference/*.md', { query: '?raw', import: 'default' });

const TITLES: Record<string, string> = {
  ...{ settings: 'Settings', 'command-line': 'Command line', bundles: 'Bundles', errors: 'Errors' },
};
const idOf = (path: string) => path.replace(/^.*\/|\.md$/g, '');
const loaders = new Map(Object.entries(files).map(([path, load]) => [idOf(path), load]));

export interface HelpPage {
  readonly id: string;
  readonly title: string;
}

/** Every reference page that was built in, in the order of its titles above. */
export const pages: readonly HelpPage[] = Object.entries(TITLES)
  .filter(([id]) => loaders.has(id))
  .map(([id, title]) => ({ id, title }));

/** A reference page as HTML; null where there is none. */
export async function pageOf(id: string): Promise<string | null> {
  const load = loaders.get(id);
  if (!load) return null;
  const [text, { marked }] = await Promise.all([load(), import('marked')]);
  return marked.parse(text, { async: false, gfm: true });
}

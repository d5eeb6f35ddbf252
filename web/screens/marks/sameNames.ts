import type { MarkCard } from '../../../contract/views';

const day = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });

/**
 * For marks that share their name with another: what tells them apart, by id. Their file where that differs, else when
 * they came.
 */
export function sameNames(marks: readonly MarkCard[]): ReadonlyMap<string, string> {
  const byName = new Map<string, MarkCard[]>();
  for (const mark of marks) {
    const key = mark.name.trim().toLowerCase();
    byName.set(key, [...(byName.get(key) ?? []), mark]);
  }
  const words = new Map<string, string>();
  for (const alike of byName.values()) {
    if (alike.length < 2) continue;
    const files = new Set(alike.map((m) => m.originalName));
    const byAge = [...alike].sort((a, b) => a.createdAt.localeCompare(b.createdAt) || a.id.localeCompare(b.id));
    for (const [k, mark] of byAge.entries()) {
      const when = day.format(new Date(mark.createdAt));
      words.set(mark.id, files.size === alike.length ? mark.originalName : `${k + 1} of ${alike.length}, ${when}`);
    }
  }
  return words;
}

import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
import { paths } from '../../contract/paths';
import type { PdfView, TakenIn } from '../../contract/views';
import { wordsFor } from '../messages';
import { upload } from './http';

/** One file on its way in. */
export interface IntakeRow {
  readonly key: number;
  readonly fileName: string;
  readonly state: 'waiting' | 'reading' | 'done' | 'known' | 'pages' | 'refused' | 'cancelled';
  readonly taken: TakenIn | null;
  /** A PDF file, from whose pages something is still to be picked. */
  readonly pdf: PdfView | null;
  readonly problem: string | null;
}

const AT_ONCE = 2;
let lastKey = 0;

/** Takes files in, a few at a time; a refused file does not disturb the others. */
export function useIntake(brandId: string | null, onAllDone: (rows: readonly IntakeRow[]) => void) {
  const [rows, setRows] = useState<readonly IntakeRow[]>([]);
  const queries = useQueryClient();
  const stop = useRef(new AbortController());
  const patch = useCallback(
    (key: number, change: Partial<IntakeRow>) =>
      setRows((all) => all.map((r) => (r.key === key ? { ...r, ...change } : r))),
    [],
  );

  const add = useCallback(
    async (files: readonly File[]) => {
      if (!brandId || files.length === 0) return;
      if (stop.current.signal.aborted) stop.current = new AbortController();
      const { signal } = stop.current;
      const fresh = files.map((file) => ({
        file,
        row: {
          key: ++lastKey,
          fileName: file.name,
          state: 'waiting',
          taken: null,
          pdf: null,
          problem: null,
        } as IntakeRow,
      }));
      setRows((all) => [
        ...all.filter((r) => r.state === 'waiting' || r.state === 'reading'),
        ...fresh.map((f) => f.row),
      ]);
      const ended = new Map<number, IntakeRow>();
      const queue = [...fresh];
      const serve = async () => {
        for (let next = queue.shift(); next; next = queue.shift()) {
          const { file, row } = next;
          const change: Partial<IntakeRow> = signal.aborted
            ? { state: 'cancelled' }
            : await (patch(row.key, { state: 'reading' }), takeOne(brandId, file, signal));
          ended.set(row.key, { ...row, ...change });
          patch(row.key, change);
          if (change.taken) await queries.invalidateQueries({ queryKey: ['marks', brandId] });
        }
      };
      await Promise.all(Array.from({ length: AT_ONCE }, serve));
      void queries.invalidateQueries({ queryKey: ['brands'] });
      onAllDone(fresh.map((f) => ended.get(f.row.key) as IntakeRow));
    },
    [brandId, patch, queries, onAllDone],
  );

  return { rows, add, cancel: () => stop.current.abort(), clear: () => setRows([]) };
}

const PDF_HEAD = 1024;

/** By its first bytes, whatever its name says. */
const isPdf = async (file: File): Promise<boolean> =>
  (
    await file
      .slice(0, PDF_HEAD)
      .text()
      .catch(() => '')
  ).includes('%PDF-');

/** Where the pages of a PDF file are picked from. */
export const pagesPath = ({ sha, name, pages }: PdfView): string =>
  `/pages/${sha}/1?name=${encodeURIComponent(name)}&pages=${pages.length}`;

async function takeOne(brandId: string, file: File, signal: AbortSignal): Promise<Partial<IntakeRow>> {
  const query = `?name=${encodeURIComponent(file.name)}`;
  try {
    if (await isPdf(file)) {
      const pdf = await upload<PdfView>(`${paths.brandPdfs(brandId)}${query}`, file, signal);
      return { state: 'pages', pdf };
    }
    const taken = await upload<TakenIn>(`${paths.brandMarks(brandId)}${query}`, file, signal);
    return { state: taken.isDuplicate ? 'known' : 'done', taken };
  } catch (error) {
    if (signal.aborted) return { state: 'cancelled' };
    return { state: 'refused', problem: wordsFor(error) };
  }
}

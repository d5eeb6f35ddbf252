import { useCallback } from 'react';

// Files that were dropped for a wall before its screen was there.
const waiting = new Map<string, readonly File[]>();

/** Leaves files for a wall whose screen opens next. */
export const useNewFiles = () =>
  useCallback((wallId: string, files: readonly File[]) => {
    if (files.length > 0) waiting.set(wallId, files);
  }, []);

/** Files that were left for a wall, once. */
export function takeNewFiles(wallId: string): readonly File[] {
  const files = waiting.get(wallId) ?? [];
  waiting.delete(wallId);
  return files;
}

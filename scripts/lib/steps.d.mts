/** @param readDisk  as `fs.statfsSync` */
export function warnOfFullDisk(
  folder: string,
  readDisk?: (folder: string) => { readonly bavail: number; readonly bsize: number },
): string | null;

/** What keeps glibc from holding on to memory that was once taken. */
export const MEMORY_ENV: Readonly<Record<string, string>>;

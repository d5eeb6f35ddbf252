/** @param readDisk  as `fs.statfsSync` */
export function warnOfFullDisk(
  folder: string,
  readDisk?: (folder: string) => { readonly bavail: number; readonly bsize: number },
): string | null;

import { useQueries } from '@tanstack/react-query';

/** Pictures by their addresses, loaded once for all screens. */
export function usePhotos(urls: readonly string[]): ReadonlyMap<string, ImageBitmap> {
  const results = useQueries({
    queries: urls.map((url) => ({
      queryKey: ['photo', url],
      queryFn: async () => createImageBitmap(await (await fetch(url)).blob()),
      staleTime: Infinity,
      gcTime: Infinity,
    })),
    combine: (all) => all.map((r) => r.data),
  });
  return new Map(urls.flatMap((url, k) => (results[k] ? [[url, results[k]] as const] : [])));
}

/** Covers a box with a picture, centred, nothing stretched. */
export function coverWith(
  context: CanvasRenderingContext2D,
  photo: ImageBitmap,
  x: number,
  y: number,
  width: number,
  height: number,
): void {
  const scale = Math.max(width / photo.width, height / photo.height);
  const [w, h] = [width / scale, height / scale];
  context.drawImage(photo, (photo.width - w) / 2, (photo.height - h) / 2, w, h, x, y, width, height);
}

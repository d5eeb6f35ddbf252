import { useEffect, useState } from 'react';

export interface LoadedPicture {
  readonly url: string;
  readonly width: number;
  readonly height: number;
  readonly image: HTMLImageElement;
}

/** A picture and its size as soon as it is there; the one before it stays until then. */
export function usePicture(url: string | null): LoadedPicture | null {
  const [picture, setPicture] = useState<LoadedPicture | null>(null);
  useEffect(() => {
    if (!url) return setPicture(null);
    let isOver = false;
    const image = new window.Image();
    image.onload = () => !isOver && setPicture({ url, width: image.naturalWidth, height: image.naturalHeight, image });
    image.src = url;
    return () => {
      isOver = true;
    };
  }, [url]);
  return picture;
}

import type { RectPx } from '../params';
import type { Extent } from '../sizes/size';
import type { Fit } from './readPlacement';

/** A part of a photo, and the whole pixels of the frame that it fills; both may be fractions of each other's pixels. */
export interface Fitted {
  readonly from: RectPx;
  readonly to: RectPx;
}

/**
 * How a photo comes to lie in a frame: filling it, cut evenly on both sides; whole inside it; pulled to its shape; or
 * filling a part of it.
 */
export function fitPhoto(photo: Extent, frame: Extent, fit: Fit): Fitted {
  const all: RectPx = { x: 0, y: 0, width: photo.width, height: photo.height };
  const whole: RectPx = { x: 0, y: 0, width: frame.width, height: frame.height };
  if (fit === 'stretch') return { from: all, to: whole };
  if (fit === 'fit') {
    const scale = Math.min(frame.width / photo.width, frame.height / photo.height);
    const width = Math.max(1, Math.round(photo.width * scale));
    const height = Math.max(1, Math.round(photo.height * scale));
    const [x, y] = [Math.floor((frame.width - width) / 2), Math.floor((frame.height - height) / 2)];
    return { from: all, to: { x, y, width, height } };
  }
  const to = fit === 'fill' ? whole : fit;
  const scale = Math.max(to.width / photo.width, to.height / photo.height);
  const [width, height] = [to.width / scale, to.height / scale];
  return { from: { x: (photo.width - width) / 2, y: (photo.height - height) / 2, width, height }, to };
}

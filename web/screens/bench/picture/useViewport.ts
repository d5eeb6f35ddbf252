import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';

export const MOST_ZOOM = 32;

/** Where the picture lies on the screen: CSS px = picture px × scale + offset. */
export interface Viewport {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
}

const MARGIN = 28;
const RIM = 60;

/**
 * Zoom from fit to 3200 % and panning, by wheel, drag, keyboard and buttons.
 * @param width height  size of what is looked at
 */
export function useViewport(box: RefObject<HTMLElement | null>, width: number, height: number) {
  const [size, setSize] = useState({ w: 1, h: 1 });
  const [custom, setCustom] = useState<Viewport | null>(null);
  const fit = fitView(size, width, height);
  const view = custom ?? fit;
  const latest = useRef({ view, fit, size });
  latest.current = { view, fit, size };

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = () => setSize({ w: element.clientWidth, h: element.clientHeight });
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    return () => watch.disconnect();
  }, [box]);

  const zoomAt = useCallback((factor: number, px?: number, py?: number) => {
    const { view: v, fit: f, size: s } = latest.current;
    const scale = Math.min(MOST_ZOOM, Math.max(Math.min(f.scale, 1), v.scale * factor));
    const [cx, cy] = [px ?? s.w / 2, py ?? s.h / 2];
    if (scale <= f.scale * 1.001 && factor < 1) setCustom(null);
    else setCustom({ scale, x: cx - ((cx - v.x) * scale) / v.scale, y: cy - ((cy - v.y) * scale) / v.scale });
  }, []);
  const panBy = useCallback(
    (dx: number, dy: number) =>
      setCustom(() => {
        const { view: v } = latest.current;
        return { ...v, x: v.x + dx, y: v.y + dy };
      }),
    [],
  );
  const zoomTo = useCallback((scale: number) => zoomAt(scale / latest.current.view.scale), [zoomAt]);

  const centreOn = useCallback((place: { x: number; y: number }, scale?: number) => {
    const { view: v, size: s } = latest.current;
    const to = Math.min(MOST_ZOOM, scale ?? v.scale);
    setCustom({ scale: to, x: s.w / 2 - place.x * to, y: s.h / 2 - place.y * to });
  }, []);
  /** Moves only when the place is out of sight or close to the rim. */
  const bringIntoView = useCallback(
    (place: { x: number; y: number }) => {
      const { view: v, size: s } = latest.current;
      const [x, y] = [place.x * v.scale + v.x, place.y * v.scale + v.y];
      if (x < RIM || y < RIM || x > s.w - RIM || y > s.h - RIM) centreOn(place);
    },
    [centreOn],
  );

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    // React's own wheel listener is passive, so the page would scroll as well.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const bounds = element.getBoundingClientRect();
      const step = event.deltaMode === 1 ? event.deltaY * 16 : event.deltaY;
      zoomAt(Math.exp(-step * 0.0022), event.clientX - bounds.left, event.clientY - bounds.top);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [box, zoomAt]);

  return {
    view,
    size,
    isFit: custom === null,
    zoomAt,
    zoomTo,
    panBy,
    centreOn,
    bringIntoView,
    showAll: useCallback(() => setCustom(null), []),
  };
}

function fitView({ w, h }: { w: number; h: number }, width: number, height: number): Viewport {
  const scale = Math.max(0.001, Math.min((w - 2 * MARGIN) / width, (h - 2 * MARGIN) / height, 2));
  return { scale, x: (w - width * scale) / 2, y: (h - height * scale) / 2 };
}

import { type CSSProperties, useEffect, useRef } from 'react';

interface Props {
  readonly draw: (context: CanvasRenderingContext2D, width: number, height: number) => void;
  readonly label?: string;
  readonly className?: string;
  readonly style?: CSSProperties;
}

/**
 * A canvas as large as its place, in device pixels; `draw` gets CSS pixels and runs again when it changes or the place
 * does.
 */
export function Canvas({ draw, label, className, style }: Props) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas) return;
    let frame = 0;
    const paint = () => {
      const { clientWidth: w, clientHeight: h } = canvas;
      const ratio = window.devicePixelRatio || 1;
      const [pw, ph] = [Math.max(1, Math.round(w * ratio)), Math.max(1, Math.round(h * ratio))];
      if (canvas.width !== pw || canvas.height !== ph) [canvas.width, canvas.height] = [pw, ph];
      const context = canvas.getContext('2d') as CanvasRenderingContext2D;
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      context.clearRect(0, 0, w, h);
      draw(context, w, h);
    };
    const schedule = () => {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(paint);
    };
    schedule();
    const watch = new ResizeObserver(schedule);
    watch.observe(canvas);
    return () => {
      cancelAnimationFrame(frame);
      watch.disconnect();
    };
  }, [draw]);
  return (
    <canvas
      ref={ref}
      className={className}
      style={style}
      role={label ? 'img' : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
    />
  );
}

/** The checker on which transparency shows: two neutral greys, in screen pixels whatever the zoom. */
export function fillChecker(
  context: CanvasRenderingContext2D,
  x: number,
  y: number,
  width: number,
  height: number,
  cell = 10,
): void {
  const style = getComputedStyle(document.documentElement);
  context.fillStyle = style.getPropertyValue('--checker-a');
  context.fillRect(x, y, width, height);
  context.save();
  context.beginPath();
  context.rect(x, y, width, height);
  context.clip();
  context.fillStyle = style.getPropertyValue('--checker-b');
  for (let r = 0; r * cell < height; r++)
    for (let c = r % 2; c * cell < width; c += 2) context.fillRect(x + c * cell, y + r * cell, cell, cell);
  context.restore();
}

/** Where a picture of the given size comes to lie, whole and centred, in a box. Never enlarged beyond `most`. */
export function fitBox(
  width: number,
  height: number,
  boxWidth: number,
  boxHeight: number,
  margin: number,
  most = Infinity,
): { x: number; y: number; width: number; height: number } {
  const scale = Math.min((boxWidth - 2 * margin) / width, (boxHeight - 2 * margin) / height, most);
  const w = width * scale;
  const h = height * scale;
  return { x: (boxWidth - w) / 2, y: (boxHeight - h) / 2, width: w, height: h };
}

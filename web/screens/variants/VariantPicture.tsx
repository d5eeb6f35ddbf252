import { useCallback } from 'react';
import type { VariantDone } from '../../../worker/protocol';
import { Canvas, fitBox } from '../../components/Canvas';
import { coverWith } from '../../components/usePhoto';
import type { ProofGround } from '../../data/proofGrounds';

/** One variant on one ground. */
export function VariantPicture({
  done,
  ground,
  photo,
  name,
  isSmall = false,
  isActual = false,
}: {
  done: VariantDone | null;
  ground: ProofGround;
  photo: ImageBitmap | null;
  name: string;
  /** In a strip or a table. */
  isSmall?: boolean;
  /** One pixel of the mark for one of the screen, in the middle. */
  isActual?: boolean;
}) {
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      context.imageSmoothingQuality = 'high';
      if (ground.hex) {
        context.fillStyle = ground.hex;
        context.fillRect(0, 0, w, h);
      } else if (photo) coverWith(context, photo, 0, 0, w, h);
      if (!done?.bitmap) return;
      if (isActual) {
        const k = 1 / devicePixelRatio;
        const [width, height] = [done.width * k, done.height * k];
        context.drawImage(done.bitmap, (w - width) / 2, (h - height) / 2, width, height);
        return;
      }
      const to = fitBox(done.width, done.height, w, h, isSmall ? 7 : 26, 2);
      context.drawImage(done.bitmap, to.x, to.y, to.width, to.height);
    },
    [done, ground, photo, isSmall, isActual],
  );
  return (
    <div className={`variant-picture${isSmall ? ' is-small' : ''}`}>
      <Canvas draw={draw} label={`${name} on ${ground.name}`} />
      {!done && !isSmall && (
        <span className="soft" role="status">
          Drawing…
        </span>
      )}
    </div>
  );
}

import type { RectPx } from '../../../core/params';

interface Props {
  readonly photo: string;
  readonly photoBox: RectPx;
  readonly mark: string;
  readonly opacity: number;
  readonly box: RectPx;
  readonly worst: { readonly x: number; readonly y: number; readonly ratio: number };
}

const SIDE = 168;
/** So much of the mark is seen in it. */
const SHARE = 0.35;

/** The part of the outline that stands out least, large. */
export function Loupe({ photo, photoBox, mark, opacity, box, worst }: Props) {
  const scale = SIDE / Math.max(24, Math.max(box.width, box.height) * SHARE);
  const place = (r: RectPx) => ({
    left: (r.x - worst.x) * scale + SIDE / 2,
    top: (r.y - worst.y) * scale + SIDE / 2,
    width: r.width * scale,
    height: r.height * scale,
  });
  return (
    <figure className="place-loupe" aria-label="Where the outline stands out least">
      <span style={{ width: SIDE, height: SIDE }}>
        <img src={photo} alt="" style={place(photoBox)} />
        <img src={mark} alt="" style={{ ...place(box), opacity }} />
      </span>
      <figcaption className="small">worst, {worst.ratio.toFixed(1)} : 1</figcaption>
    </figure>
  );
}

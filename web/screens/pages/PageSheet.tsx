import { useDrag } from '@use-gesture/react';
import { useRef, useState } from 'react';
import type { PageView } from '../../../contract/views';
import type { RectPx } from '../../../core/params';
import { type Picking, objectsIn, pressed, toggleObjects, togglePicture } from './picking';

interface Props {
  readonly page: PageView;
  /** The page as it looks. */
  readonly picture: string;
  /** Screen pixels of a point. */
  readonly scale: number;
  readonly picking: Picking;
  /** A press takes the drawn picture that an object belongs to, not the object alone. */
  readonly takesGroups: boolean;
  readonly onPick: (picking: Picking) => void;
}

/** A press that moves less than this is a press. */
const PRESS_PX = 4;
/** Page-wide grounds and hairlines get no chip. */
const MOST_CHIPS = 60;

/** One page: objects are picked by press, several by a rectangle. */
export function PageSheet({ page, picture, scale, picking, takesGroups, onPick }: Props) {
  const sheet = useRef<HTMLDivElement>(null);
  const [rect, setRect] = useState<RectPx | null>(null);
  const [hovered, setHovered] = useState<number | null>(null);
  const bindDrag = useDrag(
    ({ initial: [x0, y0], xy: [x, y], last, event }) => {
      const bounds = (sheet.current as HTMLDivElement).getBoundingClientRect();
      const at = (v: number, from: number) => (v - from) / scale;
      const box = {
        x: at(Math.min(x0, x), bounds.left),
        y: at(Math.min(y0, y), bounds.top),
        width: Math.abs(x - x0) / scale,
        height: Math.abs(y - y0) / scale,
      };
      const isPress = Math.max(box.width, box.height) * scale < PRESS_PX;
      if (!last) return setRect(isPress ? null : box);
      setRect(null);
      if (!isPress) {
        const inside = objectsIn(page, box).filter((k) => !picking.objects.has(k));
        if (inside.length > 0) onPick(toggleObjects(picking, inside));
        return;
      }
      const number = (event.target as Element).getAttribute('data-object');
      if (number !== null) onPick(toggleObjects(picking, pressed(page, Number(number), takesGroups)));
    },
    { pointer: { keys: false } },
  );
  const lit = new Set(hovered === null ? [] : pressed(page, hovered, takesGroups));
  const [width, height] = [page.widthPt * scale, page.heightPt * scale];
  const onScreen = (b: RectPx) => ({
    left: b.x * scale,
    top: b.y * scale,
    width: b.width * scale,
    height: b.height * scale,
  });
  return (
    <div className="page-sheet" ref={sheet} style={{ width, height }} {...bindDrag()}>
      <img src={picture} alt="" width={width} height={height} draggable={false} />
      <svg viewBox={`0 0 ${page.widthPt} ${page.heightPt}`} aria-hidden="true">
        {page.objects.map((object, k) => (
          <path
            key={k}
            d={object.d}
            data-object={k}
            fillRule={object.rule}
            className={`page-object${picking.objects.has(k) ? ' is-picked' : ''}${lit.has(k) ? ' is-lit' : ''}`}
            onPointerEnter={() => setHovered(k)}
            onPointerLeave={() => setHovered(null)}
          />
        ))}
        {rect && <rect className="page-rect" {...rect} />}
      </svg>
      {page.groups.slice(0, MOST_CHIPS).map((group, k) => {
        const isPicked = group.objects.every((o) => picking.objects.has(o));
        return (
          <button
            key={k}
            type="button"
            className={`page-chip chip${isPicked ? ' is-picked' : ''}`}
            style={{ left: group.box.x * scale, top: group.box.y * scale }}
            aria-pressed={isPicked}
            aria-label={`Drawn picture ${k + 1}`}
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => onPick(toggleObjects(picking, group.objects))}
          >
            {k + 1}
          </button>
        );
      })}
      {page.pictures.map(
        (box, k) =>
          box.canTake && (
            <button
              key={k}
              type="button"
              className={`page-picture${picking.picture === k ? ' is-picked' : ''}`}
              style={onScreen(box)}
              aria-pressed={picking.picture === k}
              aria-label={`Picture ${k + 1}, made of pixels`}
              onPointerDown={(e) => e.stopPropagation()}
              onClick={() => onPick(togglePicture(picking, k))}
            >
              <span>picture</span>
            </button>
          ),
      )}
    </div>
  );
}

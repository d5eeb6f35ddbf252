import type { SlotView } from '../../../contract/walls';
import type { SlotPlace } from '../../../core/wall/levelWall';
import type { WallRule } from '../../../core/wall/wallRule';
import { useSortableItem } from '../../components/Sortable';
import { problemWords, sizeWords } from './wallWords';

interface Props {
  readonly slot: SlotView;
  readonly place: SlotPlace | undefined;
  readonly rule: WallRule;
  /** The ground's own picture, where it is a photo. */
  readonly photo: string | null;
  readonly usual: number;
  readonly isChosen: boolean;
  /** What is known of it belongs to earlier settings. */
  readonly isOld: boolean;
  readonly onChoose: () => void;
}

/** Whether words on a ground are to be light. */
const isDark = (hex: string) => [1, 3, 5].reduce((sum, k) => sum + parseInt(hex.slice(k, k + 2), 16), 0) < 3 * MID_GREY;
const MID_GREY = 118;

/** One slot of a wall: its mark where it stands, what is wrong with it, and how large it looks. */
export function SlotCard({ slot, place, rule, photo, usual, isChosen, isOld, onChoose }: Props) {
  const { ref, style, handle } = useSortableItem(slot.id, slot.markName);
  const { widthPx, heightPx } = rule;
  const share = (v: number, of: number) => `${(v / of) * 100}%`;
  const [first, ...more] = slot.problems;
  const tag = first && `${problemWords(first, slot).tag}${more.length > 0 ? `, ${more.length} more` : ''}`;
  const size = place ? sizeWords(place.opticalSizeAfter, usual) : null;
  return (
    <div ref={ref} style={style} className={`wall-slot${isChosen ? ' is-chosen' : ''}`}>
      <button
        type="button"
        className={`wall-slot-room${photo || isDark(rule.ground) ? ' is-dark' : ''}`}
        style={{
          aspectRatio: `${widthPx} / ${heightPx}`,
          background: photo ? `center / cover url(${photo})` : rule.ground,
        }}
        aria-pressed={isChosen}
        aria-label={`${slot.markName}${tag ? `, ${tag}` : ''}`}
        onClick={onChoose}
      >
        {slot.look && place ? (
          <img
            className={isOld ? 'is-old' : undefined}
            src={slot.look.picture}
            alt=""
            style={{
              left: share(place.x, widthPx),
              top: share(place.y, heightPx),
              width: share(place.width, widthPx),
              height: share(place.height, heightPx),
            }}
          />
        ) : (
          <span className="measuring">{slot.problems.includes('gone') ? 'nothing to show' : 'checking…'}</span>
        )}
        {isOld && slot.look ? (
          <span className="wall-tag measuring">checking…</span>
        ) : (
          tag && <span className="wall-tag">{tag}</span>
        )}
      </button>
      <span className="wall-slot-foot">
        {handle}
        <span className="wall-slot-name">{slot.markName}</span>
        {size && <span className={`soft numbers${isOld ? ' is-old' : ''}`}>{size}</span>}
      </span>
    </div>
  );
}

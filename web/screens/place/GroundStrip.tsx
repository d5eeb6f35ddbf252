import { useEffect, useRef } from 'react';
import { paths } from '../../../contract/paths';
import type { LookView, RunGroundView } from '../../../contract/views';
import type { Variant } from '../../../core/recipe/recipe';
import { ratioWords, weakIn } from './placementWords';

interface Props {
  readonly grounds: readonly RunGroundView[];
  readonly looks: ReadonlyMap<string, LookView>;
  /** Whether what is known of a background was made of what the screen shows. */
  readonly isFresh: (ground: string) => boolean;
  readonly current: string | null;
  readonly variants: readonly Variant[];
  readonly marksOf: (look: LookView) => readonly { url: string; box: LookView['items'][number]['box'] }[];
  readonly onGo: (ground: string) => void;
  readonly onRemove: (ground: RunGroundView) => void;
}

/** The run's grounds, each with its marks on it, the variant that was taken and its contrast. Arrow keys go on. */
export function GroundStrip({ grounds, looks, isFresh, current, variants, marksOf, onGo, onRemove }: Props) {
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    row.current?.querySelector('[aria-pressed="true"]')?.scrollIntoView?.({ inline: 'nearest', block: 'nearest' });
  }, [current]);
  const move = (step: number) => {
    const at = grounds.findIndex((g) => g.id === current);
    const next = grounds[Math.min(grounds.length - 1, Math.max(0, at + step))];
    onGo(next.id);
    row.current?.querySelector<HTMLElement>(`[data-ground="${next.id}"]`)?.focus();
  };
  return (
    <div
      className="place-strip"
      ref={row}
      role="group"
      aria-label="Grounds of this run"
      onKeyDown={(e) => {
        const step = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
        if (!step) return;
        e.preventDefault();
        move(step);
      }}
    >
      {grounds.map((ground) => {
        const look = looks.get(ground.id);
        const first = look?.items.find((i) => i.seen !== null);
        const name = variants.find((v) => v.id === first?.variant)?.name;
        const isWeakOne = weakIn(look);
        const isOld = look !== undefined && !isFresh(ground.id);
        const words = look ? [name, first?.seen && ratioWords(first.seen), isWeakOne && 'weak'].filter(Boolean) : [];
        return (
          <div key={ground.id} className="strip-cell">
            <button
              type="button"
              className="strip-ground"
              data-ground={ground.id}
              aria-pressed={ground.id === current}
              aria-label={`${ground.name}${words.length > 0 ? `: ${words.join(', ')}` : ''}`}
              onClick={() => onGo(ground.id)}
            >
              <span
                className="strip-picture"
                style={{ aspectRatio: `${look?.width ?? ground.width} / ${look?.height ?? ground.height}` }}
              >
                <img src={paths.runGroundPreview(ground.id)} alt="" loading="lazy" style={photoStyle(look)} />
                {look &&
                  marksOf(look).map(({ url, box }) => (
                    <img key={url} src={url} alt="" style={boxStyle(box, look)} className="strip-mark" />
                  ))}
              </span>
              <span className={`strip-words${isWeakOne ? ' warn' : ''}${isOld ? ' is-old' : ''}`}>
                {look ? words.join(' · ') || ground.name : <span className="measuring">checking</span>}
                {isOld && ' · updating'}
                {ground.change && ' · by hand'}
                {ground.kind === 'clip' && ' · clip'}
                {ground.made && (ground.isOutdated ? ' · changed since' : ' · written')}
              </span>
            </button>
            <button
              type="button"
              className="strip-off"
              aria-label={`Take ${ground.name} off`}
              onClick={() => onRemove(ground)}
            >
              ✕
            </button>
          </div>
        );
      })}
    </div>
  );
}

const share = (v: number) => `${v * 100}%`;
const boxStyle = (box: { x: number; y: number; width: number; height: number }, page: LookView) => ({
  left: share(box.x / page.width),
  top: share(box.y / page.height),
  width: share(box.width / page.width),
  height: share(box.height / page.height),
});
const photoStyle = (look: LookView | undefined) =>
  look ? boxStyle(look.photo, look) : { left: 0, top: 0, width: '100%', height: '100%' };

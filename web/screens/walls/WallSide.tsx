import { InputNumber, Select } from 'antd';
import { lazy } from 'react';
import { Link } from 'react-router';
import type { SlotView, WallView } from '../../../contract/walls';
import { whyOfWall } from '../../../core/why/why';
import type { SlotPlace } from '../../../core/wall/levelWall';
import { Why } from '../../components/Why';
import { Lazy } from '../../components/Lazy';
import { SlotRule } from './SlotRule';
import { problemWords, sizeSentence, sizeWords } from './wallWords';
import type { WallRule } from '../../../core/wall/wallRule';

const SizeChart = lazy(() => import('./SizeChart').then((m) => ({ default: m.SizeChart })));

interface Props {
  readonly wall: WallView;
  readonly slot: SlotView | null;
  readonly places: ReadonlyMap<string, SlotPlace>;
  readonly usual: number;
  readonly isBusy: boolean;
  readonly onChoose: (id: string) => void;
  readonly onMend: (slot: SlotView) => void;
  readonly onSlot: (slot: SlotView, change: object) => void;
  readonly onRemove: (slot: SlotView) => void;
  readonly onPreview: (rule: WallRule | null) => void;
  readonly onRule: (rule: WallRule) => void;
}

/** Beside a wall: the chosen slot, what is wrong with it and the way to mend that, all sizes, and the slots' rule. */
export function WallSide(props: Props) {
  const { wall, slot, places, usual, onChoose } = props;
  const pairs = wall.slots.flatMap((s) => {
    const p = places.get(s.id);
    if (!p) return [];
    return [{ id: s.id, name: s.markName, before: p.opticalSizeBefore / usual, after: p.opticalSizeAfter / usual }];
  });
  return (
    <>
      {slot ? <SlotPart {...props} slot={slot} /> : <p className="soft">Choose a logo to see what was found of it.</p>}
      {pairs.length > 1 && (
        <section className="wall-part">
          <h3>Optical size</h3>
          <Lazy height={150}>
            <SizeChart pairs={pairs} chosen={slot?.id ?? null} onChoose={onChoose} />
          </Lazy>
        </section>
      )}
      <SlotRule rule={wall.rule} onPreview={props.onPreview} onRule={props.onRule} />
    </>
  );
}

function SlotPart({ slot, places, usual, isBusy, onMend, onSlot, onRemove }: Props & { slot: SlotView }) {
  const place = places.get(slot.id);
  const isGone = slot.problems.includes('gone');
  return (
    <section className="wall-part" aria-label={slot.markName}>
      <header>
        <h2>{slot.markName}</h2>
        <span className="soft small">
          {slot.format && `${slot.format} ${slot.widthPx} × ${slot.heightPx}, `}
          {slot.shows === 'file' ? 'as it came' : 'cut out and trimmed'}
          {slot.look?.hasPaths && ', paths'}
        </span>
      </header>
      {slot.problems.map((problem) => {
        const said = problemWords(problem, slot);
        return (
          <div key={problem} className="finding">
            <b>{said.title}</b> {said.detail}
            <span className="finding-ways">
              <button type="button" className="plain small" disabled={isBusy} onClick={() => onMend(slot)}>
                {said.mend}
              </button>
              <Why title={said.tag} why={whyOfWall[problem]} />
            </span>
          </div>
        );
      })}
      {place && (
        <p>
          <b>Optical size {sizeWords(place.opticalSizeAfter, usual)}.</b>{' '}
          {sizeSentence(place.opticalSizeBefore, place.opticalSizeAfter, usual)}
        </p>
      )}
      {!isGone && slot.shows === 'mark' && (
        <>
          <label className="setting-line wall-row">
            <span>Shown</span>
            <Select
              size="small"
              aria-label="Variant shown"
              value={slot.variant ?? ''}
              options={[
                { value: '', label: 'own colours' },
                ...slot.variants.map((v) => ({ value: v.id, label: v.name })),
              ]}
              onChange={(variant) => onSlot(slot, { variant: variant || null })}
              popupMatchSelectWidth={false}
            />
          </label>
          <label className="setting-line wall-row">
            <span>Stretch taken out</span>
            <InputNumber
              size="small"
              aria-label="Times as wide as it should be"
              min={0.1}
              max={10}
              step={0.05}
              value={slot.squeeze}
              suffix="times"
              onChange={(v) => v !== null && v >= 0.1 && v <= 10 && onSlot(slot, { squeeze: v })}
            />
          </label>
        </>
      )}
      <p className="wall-links">
        {!isGone && <Link to={`/marks/${slot.markId}`}>Its bench</Link>}
        {!isGone && slot.problems.length === 0 && slot.shows === 'mark' && (
          <button
            type="button"
            className="plain"
            onClick={() => onSlot(slot, { shows: 'file', squeeze: 1, variant: null })}
          >
            As it came
          </button>
        )}
        <button type="button" className="plain" onClick={() => onRemove(slot)}>
          Take it down
        </button>
      </p>
    </section>
  );
}

import { Segmented, Switch } from 'antd';
import { Suspense, lazy } from 'react';
import type { LookView, MarkCard, RunGroundView, RunOptions } from '../../../contract/views';
import { type Item, isStrip } from '../../../core/placements/readPlacement';
import { LEAST_LINE_PX } from '../../../core/recipe/thinLines';
import type { Variant } from '../../../core/recipe/recipe';
import { ClipFiles } from './ClipFiles';
import { PlacementSentence } from './PlacementSentence';
import { isWeak, placeWords, ratioWords } from './placementWords';

const ClipChart = lazy(() => import('./ClipChart'));

interface Props {
  readonly items: readonly Item[];
  readonly chosen: number;
  readonly marks: readonly MarkCard[];
  readonly variants: readonly Variant[];
  readonly palette: readonly { readonly name: string; readonly hex: string }[];
  readonly ground: RunGroundView | null;
  readonly look: LookView | undefined;
  /** `look` was made of earlier settings. */
  readonly isOld: boolean;
  readonly reach: 'all' | 'here';
  readonly showsSafe: boolean;
  readonly showsWorst: boolean;
  readonly weak: { readonly count: number; readonly of: number; readonly first: RunGroundView | null };
  readonly onChoose: (item: number) => void;
  readonly onReach: (reach: 'all' | 'here') => void;
  readonly onItem: (item: Item) => void;
  readonly onHere: (change: Partial<Extract<Item, { mark: string }>>) => void;
  readonly onReset: () => void;
  readonly onAdd: (kind: 'mark' | 'strip') => void;
  readonly onRemove: () => void;
  readonly onShows: (what: { safe?: boolean; worst?: boolean }) => void;
  readonly onGo: (ground: string) => void;
  readonly options: RunOptions;
  readonly onOptions: (options: RunOptions) => void;
}

/** The placement as a sentence, and how it comes out on the ground that is shown. */
export function PlaceSide(props: Props) {
  const { items, chosen, ground, look, marks, weak, onChoose } = props;
  const item = items[chosen];
  const seen = look?.items[chosen];
  const [best] = look?.corners ?? [];
  const isFirst = chosen === items.findIndex((i) => !isStrip(i));
  const isBetter =
    isFirst && best && seen?.seen && !isStrip(item) && best.at !== item.at && gain(best.seen, seen.seen) ? best : null;
  return (
    <aside className="side-panel place-side" aria-label="The placement">
      {items.length > 1 && (
        <div className="place-items" role="tablist" aria-label="Items">
          {items.map((i, k) => (
            <button key={k} type="button" role="tab" aria-selected={k === chosen} onClick={() => onChoose(k)}>
              {isStrip(i) ? 'Strip' : (marks.find((m) => m.id === i.mark)?.name ?? 'Mark')}
            </button>
          ))}
        </div>
      )}
      <PlacementSentence
        item={item}
        marks={marks}
        variants={props.variants}
        palette={props.palette}
        better={isBetter?.at ?? null}
        onChange={props.onItem}
      />
      <div className="panel-row small">
        <span className="soft">A change is for</span>
        <Segmented
          size="small"
          value={props.reach}
          onChange={(v) => props.onReach(v as Props['reach'])}
          options={[
            { value: 'all', label: 'all' },
            { value: 'here', label: 'this one alone', disabled: !ground },
          ]}
        />
      </div>
      {isBetter && (
        <p className="small">
          <b>{capital(placeWords(isBetter.at))}</b> would read better here: {ratioWords(isBetter.seen)}.{' '}
          <button type="button" className="plain" onClick={() => props.onHere({ at: isBetter.at })}>
            Use it here only
          </button>
        </p>
      )}
      {ground && !look && <p className="measuring">Looking at {ground.name}</p>}
      {ground && props.isOld && <p className="measuring">Updating {ground.name}</p>}
      {ground && look && seen && <Facts {...props} look={look} ground={ground} />}
      {seen && seen.overTime.length > 0 && (
        <Suspense>
          <ClipChart item={seen} variants={props.variants} />
        </Suspense>
      )}
      {ground?.kind === 'clip' && <ClipFiles ground={ground} options={props.options} onOptions={props.onOptions} />}
      {look?.gaps && (
        <p className="finding" role="alert">
          <b>Nothing covers {look.gaps.px.toLocaleString('en')} px.</b> They lie in {look.gaps.box.width} ×{' '}
          {look.gaps.box.height} px at {look.gaps.box.x}, {look.gaps.box.y}.
        </p>
      )}
      {weak.count > 0 && (
        <p className="finding">
          <b>
            {weak.count} of {weak.of} weak.
          </b>{' '}
          {weak.first && (
            <>
              {weak.first.name}: much of the outline lies on its own tone.
              <button type="button" className="plain" onClick={() => props.onGo(weak.first?.id ?? '')}>
                Go there
              </button>
            </>
          )}
        </p>
      )}
      <div className="place-shows small">
        <label>
          <Switch size="small" checked={props.showsSafe} onChange={(safe) => props.onShows({ safe })} /> Safe area
        </label>
        <label>
          <Switch size="small" checked={props.showsWorst} onChange={(worst) => props.onShows({ worst })} /> Worst place
        </label>
      </div>
      <div className="place-more small">
        <button type="button" className="plain" onClick={() => props.onAdd('mark')}>
          Add a mark
        </button>
        <button type="button" className="plain" onClick={() => props.onAdd('strip')}>
          Add a strip
        </button>
        {items.length > 1 && (
          <button type="button" className="plain" onClick={props.onRemove}>
            Take this one off
          </button>
        )}
      </div>
    </aside>
  );
}

/** Only what can be told apart is worth a word. */
const gain = (a: { ratio: number; shareAbove3: number }, b: { ratio: number; shareAbove3: number }) =>
  a.shareAbove3 > b.shareAbove3 + 0.1 || (a.shareAbove3 >= b.shareAbove3 - 0.02 && a.ratio > b.ratio * 1.25);

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function Facts({ look, ground, chosen, variants, isOld, onReset }: Props & { look: LookView; ground: RunGroundView }) {
  const { variant, seen, box, thinnestPx } = look.items[chosen];
  const name = variants.find((v) => v.id === variant)?.name ?? variant;
  return (
    <dl className={`place-facts${isOld ? ' is-old' : ''}`} aria-busy={isOld}>
      {seen && (
        <>
          <div>
            <dt>On this {ground.kind}</dt>
            <dd className={isWeak(seen) ? 'warn' : ''}>
              {name} · {ratioWords(seen)}
              {isWeak(seen) && ', weak'}
            </dd>
          </div>
          <div>
            <dt>Outline at 3 : 1 and more</dt>
            <dd>{Math.round(seen.shareAbove3 * 100)} %</dd>
          </div>
        </>
      )}
      {thinnestPx !== null && (
        <div>
          <dt>Thinnest stroke here</dt>
          <dd className={thinnestPx < LEAST_LINE_PX ? 'warn' : ''}>
            {thinnestPx.toFixed(1)} px{thinnestPx < LEAST_LINE_PX && ', too thin'}
          </dd>
        </div>
      )}
      <div>
        <dt>Size</dt>
        <dd>
          {Math.round(box.width)} × {Math.round(box.height)} px
        </dd>
      </div>
      <div>
        <dt>Of this one alone</dt>
        <dd>
          {ground.change && Object.keys(ground.change).length > 0 ? (
            <button type="button" className="plain" onClick={onReset}>
              as the others again
            </button>
          ) : (
            <span className="soft">nothing changed</span>
          )}
        </dd>
      </div>
    </dl>
  );
}

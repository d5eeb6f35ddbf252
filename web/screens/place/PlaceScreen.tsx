import './place.css';
import { useQuery } from '@tanstack/react-query';
import { App, Button, Progress, Segmented } from 'antd';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useNavigate, useParams } from 'react-router';
import { paths } from '../../../contract/paths';
import type { GroundChange, LookView, PlacementView, RunGroundView } from '../../../contract/views';
import { itemsWith } from '../../../core/placements/itemOn';
import { type Item, type MarkItem, type Placement, isStrip } from '../../../core/placements/readPlacement';
import { NameField } from '../../components/NameField';
import { Failed, Waiting } from '../../components/Waiting';
import { send, upload } from '../../data/http';
import { groundsQuery, markQuery, marksQuery } from '../../data/queries';
import { useBrandOf } from '../../data/useBrand';
import { wordsFor } from '../../messages';
import { GroundStage, type Moved } from './GroundStage';
import { GroundStrip } from './GroundStrip';
import { PlaceSide } from './PlaceSide';
import { RunSettings } from './RunSettings';
import { USUAL_NAME, freeName, isNamedByRule, placementName, weakIn } from './placementWords';
import { placeByName } from './snapping';
import { placementsQuery, useLooks, usePlacement } from './usePlacement';

const KINDS = { accept: { 'image/*': [], 'video/*': ['.mp4', '.mov', '.webm'] }, noClick: true, noKeyboard: true };

/** Marks on photos and clips: the ground large, the placement as a sentence, the run below. */
export function PlaceScreen() {
  const { placementId = '' } = useParams();
  const draft = usePlacement(placementId);
  const { placement, error } = draft;
  if (error) return <Failed error={error} />;
  if (!placement) return <Waiting what="the placement" />;
  return <Place key={placementId} draft={draft} placement={placement} />;
}

function Place({ draft, placement }: { draft: ReturnType<typeof usePlacement>; placement: PlacementView }) {
  const navigate = useNavigate();
  const { message } = App.useApp();
  const own = useBrandOf(placement.brandId);
  const { data: marks = [] } = useQuery(marksQuery(placement.brandId));
  const { data: ownGrounds = [] } = useQuery(groundsQuery(placement.brandId));
  const { data: list = [] } = useQuery(placementsQuery(placement.brandId));
  const { rule, grounds } = placement;
  const [shown, setShown] = useState<string | null>(null);
  const [chosen, setChosen] = useState(0);
  const [zoom, setZoom] = useState<'fit' | 'actual'>('fit');
  const [reach, setReach] = useState<'all' | 'here'>('all');
  const [shows, setShows] = useState({ safe: false, worst: false });
  const [problems, setProblems] = useState<readonly string[]>([]);
  const ground = grounds.find((g) => g.id === shown) ?? grounds[0] ?? null;
  const items = itemsWith(rule.items, ground?.change ?? null);
  const at = Math.min(chosen, items.length - 1);
  const item = items[at];
  const { data: mark } = useQuery({ ...markQuery(isStrip(item) ? '' : item.mark), enabled: !isStrip(item) });
  const variants = mark?.recipe.variants ?? [];
  const revisions = marks.map((m) => `${m.id}${m.revision}`).join();
  const checks = useLooks(draft.stored, placement, ground?.id ?? null, revisions);
  const { looks } = checks;
  const look = ground ? looks.get(ground.id) : undefined;
  const weakOnes = grounds.filter((g) => weakIn(looks.get(g.id)));
  const replaced = (k: number, next: Item) => rule.items.map((i, n) => (n === k ? next : i));
  /** Changes the rule; a name that told the rule tells the new one, a name of a person's own stays. */
  const setRule = (next: Placement) => {
    const others = list.filter((p) => p.id !== placement.id).map((p) => p.name);
    const name = isNamedByRule(placement.name, rule.items, marks)
      ? freeName(placementName(USUAL_NAME, next.items[0], marks), others)
      : placement.name;
    draft.setRule(next, name === placement.name ? undefined : name);
  };
  const setItem = (next: Item) => {
    if (reach === 'here' && ground && !isStrip(next)) return changeHere(at, next);
    setRule({ ...rule, items: replaced(at, next) });
  };
  const changeHere = (k: number, change: Partial<MarkItem>) => {
    if (!ground) return;
    const { mark: _, ...parts } = change;
    const before = (ground.change ?? {}) as GroundChange;
    void draft.changeGround(ground.id, { ...before, [k]: { ...before[k], ...parts } });
  };
  const moved = (k: number, { box, turnDeg, grown }: Moved) => {
    const before = items[k];
    if (isStrip(before) || !ground || !look) return;
    const isSame = Math.abs(grown - 1) < 0.001;
    const size = isSame ? before.size : { ...before.size, value: Math.round(before.size.value * grown * 100) / 100 };
    const page = { width: look.width, height: look.height };
    if (reach === 'here') {
      const middle = { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + box.height / 2) };
      return changeHere(k, { at: middle, size, turnDeg });
    }
    const { at: place, insetPct } = placeByName(box, page);
    const next: MarkItem = { ...before, at: place, inset: { value: insetPct, unit: 'pct' }, size, turnDeg };
    setRule({ ...rule, items: replaced(k, next) });
  };
  const add = async (files: readonly File[]) => {
    setProblems([]);
    for (const file of files) {
      try {
        const path = `${paths.placementGrounds(placement.id)}?name=${encodeURIComponent(file.name)}`;
        await upload<RunGroundView>(path, file, new AbortController().signal);
        await draft.step(() => send<PlacementView>('GET', paths.placement(placement.id)));
      } catch (fault) {
        setProblems((all) => [...all, wordsFor(fault)]);
      }
    }
  };
  const addOwn = () =>
    void draft.step(() =>
      send<PlacementView>('POST', paths.placementOwnGrounds(placement.id), {
        grounds: ownGrounds.filter((g) => g.picture).map((g) => g.id),
      }),
    );
  const drop = useDropzone({ ...KINDS, onDrop: (files) => void add(files) });
  const another = async () => {
    const name = freeName(
      placement.name,
      list.map((p) => p.name),
    );
    const body = { name, rule, options: placement.options, like: placement.id };
    const made = await send<PlacementView>('POST', paths.brandPlacements(placement.brandId), body);
    navigate(`/placements/${made.id}`);
  };
  const write = async () => {
    // What is still being stored belongs into the files too.
    await draft.settle();
    await draft.step(() => send<PlacementView>('POST', paths.placementRun(placement.id)));
  };
  const marksOf = (l: LookView) =>
    l.items.flatMap(({ variant, box }, k) => {
      const i = rule.items[k];
      const revision = marks.find((m) => !isStrip(i) && m.id === i?.mark)?.revision ?? 0;
      if (!i || isStrip(i) || !variant) return [];
      const turn = itemsWith(rule.items, grounds.find((g) => g.id === l.ground)?.change ?? null)[k] as MarkItem;
      return [
        { url: `${paths.markVariant(i.mark, variant)}?width=200&turn=${turn.turnDeg}&revision=${revision}`, box },
      ];
    });
  const photos = grounds.length;
  return (
    <div {...drop.getRootProps({ className: 'place' })}>
      <input {...drop.getInputProps({ 'aria-label': 'Choose photos and clips' })} />
      <header className="place-head">
        <NameField
          what="placement"
          className="place-name"
          key={placement.name}
          name={placement.name}
          taken={list.filter((p) => p.id !== placement.id).map((p) => p.name)}
          onCommit={(name) => void draft.change({ name })}
        />
        <span className="soft small">
          {photos === 0 ? 'nothing to place on yet' : `${photos} ${photos === 1 ? 'ground' : 'grounds'}`}
          {weakOnes.length > 0 && ` · ${weakOnes.length} weak`}
        </span>
        <span className="place-actions">
          <Segmented
            value={zoom}
            onChange={(v) => setZoom(v as typeof zoom)}
            options={[
              { value: 'fit', label: 'Fit' },
              { value: 'actual', label: 'Actual size' },
            ]}
          />
          <RunSettings placement={placement} onRule={setRule} onOptions={(options) => void draft.change({ options })} />
          <Button onClick={() => void another().catch((e: unknown) => message.error(wordsFor(e)))}>
            Save as another
          </Button>
          <Button
            type="primary"
            disabled={photos === 0 || draft.isRunning || checks.left > 0}
            onClick={() => void write()}
          >
            {checks.left > 0 ? `Checking ${checks.left} of ${photos}…` : `Export ${photos} ${fileWord(photos)}`}
          </Button>
        </span>
      </header>
      {[...problems, draft.problem, checks.problem]
        .filter((p) => p !== null)
        .map((p) => (
          <p key={p} className="finding place-problem" role="alert">
            {p}
          </p>
        ))}
      <RunState placement={placement} onStep={draft.step} />
      <div className="place-middle">
        {ground ? (
          <GroundStage
            ground={ground}
            look={look}
            items={items}
            marks={marks}
            chosen={at}
            zoom={zoom}
            showsSafe={shows.safe}
            showsWorst={shows.worst}
            onChoose={setChosen}
            onMove={moved}
          />
        ) : (
          <div className="place-empty">
            <b>Drop photos or clips here</b>
            <p className="soft">
              Each is looked at with its marks before anything is written. Photos are never changed.
            </p>
            <span>
              <Button onClick={drop.open}>Choose files</Button>
              {ownGrounds.some((g) => g.picture) && <Button onClick={addOwn}>Take the brand’s grounds</Button>}
            </span>
          </div>
        )}
        <PlaceSide
          items={items}
          chosen={at}
          marks={marks}
          variants={variants}
          palette={own?.palette ?? []}
          ground={ground}
          look={look}
          isOld={ground !== null && look !== undefined && !checks.isFresh(ground.id)}
          reach={reach}
          showsSafe={shows.safe}
          showsWorst={shows.worst}
          weak={{ count: weakOnes.length, of: photos, first: weakOnes.find((g) => g.id !== ground?.id) ?? null }}
          onChoose={setChosen}
          onReach={setReach}
          onItem={setItem}
          onHere={(change) => changeHere(at, change)}
          onReset={() => ground && void draft.changeGround(ground.id, null)}
          onAdd={(kind) => {
            const fresh: Item =
              kind === 'strip'
                ? { strip: { colour: own?.palette[0]?.hex ?? '#1c1b1d', edge: 'lower', heightPx: 40 }, ...PLAIN }
                : { ...(rule.items.find((i) => !isStrip(i)) as MarkItem), at: 'upper-left' };
            setRule({ ...rule, items: [...rule.items, fresh] });
            setChosen(rule.items.length);
          }}
          onRemove={() => {
            setRule({ ...rule, items: rule.items.filter((_, k) => k !== at) });
            setChosen(0);
          }}
          onShows={(what) => setShows((s) => ({ ...s, ...what }))}
          onGo={setShown}
          options={placement.options}
          onOptions={(options) => void draft.change({ options })}
        />
      </div>
      {photos > 0 && (
        <div className="place-floor">
          <GroundStrip
            grounds={grounds}
            looks={looks}
            isFresh={checks.isFresh}
            current={ground?.id ?? null}
            variants={variants}
            marksOf={marksOf}
            onGo={setShown}
            onRemove={(g) => void draft.removeGround(g.id)}
          />
          <button type="button" className="strip-add" onClick={drop.open}>
            Add photos
          </button>
        </div>
      )}
      {drop.isDragActive && (
        <div className="drop-veil" aria-hidden="true">
          <span>Drop to place marks on</span>
        </div>
      )}
    </div>
  );
}

const fileWord = (count: number) => (count === 1 ? 'file' : 'files');
const PLAIN = { opacity: 1, blend: 'normal' } as const;

function RunState({
  placement,
  onStep,
}: {
  placement: PlacementView;
  onStep: (work: () => Promise<PlacementView>) => void;
}) {
  const { state, count, done, problem, beganAt } = placement.run;
  if (state === 'waiting' || state === 'making') {
    const passed = Date.now() - Date.parse(beganAt ?? '');
    const rest = done > 0 ? Math.ceil(((passed / done) * (count - done)) / 1000) : null;
    return (
      <div className="place-state" role="status">
        <Progress percent={Math.round((done / Math.max(1, count)) * 100)} showInfo={false} strokeLinecap="butt" />
        <span>
          {done} of {count} written{rest !== null && rest > 1 && `, about ${rest} s to go`}
        </span>
        <button
          type="button"
          className="plain"
          onClick={() => onStep(() => send<PlacementView>('POST', paths.placementCancel(placement.id)))}
        >
          Cancel
        </button>
      </div>
    );
  }
  const made = placement.grounds.filter((g) => g.made);
  if (problem)
    return (
      <p className="finding place-problem" role="alert">
        <b>Not all was written.</b> {problem}
      </p>
    );
  if (made.length === 0) return null;
  const old = made.filter((g) => g.isOutdated).length;
  return (
    <div className="place-state">
      <span>
        {made.length} of {placement.grounds.length} written
        {old > 0 && <span className="warn">, {old} changed since</span>}
      </span>
      {made.length === 1 ? (
        <a href={paths.runGroundFile(made[0].id)} download={made[0].made?.name}>
          Download {made[0].made?.name}
        </a>
      ) : (
        <a href={paths.placementZip(placement.id)} download>
          Download all as a ZIP
        </a>
      )}
    </div>
  );
}

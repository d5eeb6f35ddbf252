import './walls.css';
import { useQuery } from '@tanstack/react-query';
import { Button, Dropdown, Modal, Progress, Segmented, Select } from 'antd';
import { useEffect, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useParams } from 'react-router';
import { paths } from '../../../contract/paths';
import { placesOf, usualSize } from '../../../contract/wallPlaces';
import { type SlotView, WALL_RECEIPT_HEADER, type WallView } from '../../../contract/walls';
import type { WallDress } from '../../../core/wall/wallRule';
import { NameField } from '../../components/NameField';
import { ProofLink } from '../../components/ProofLink';
import { Sortable } from '../../components/Sortable';
import { Failed, Waiting } from '../../components/Waiting';
import { download, send } from '../../data/http';
import { groundsQuery, marksQuery } from '../../data/queries';
import { useBrandOf } from '../../data/useBrand';
import { SlotCard } from './SlotCard';
import { WallSide } from './WallSide';
import { takeNewFiles } from './newFiles';
import { filesOfDrop } from './savedPage';
import { type WallDraft, useWall } from './useWall';
import { type WallCounts, exportLabel, exportedWords, groundChoices, toMend } from './wallWords';

/** A wall: marks in equal slots, what is wrong with each, levelled, and written. */
export function WallScreen() {
  const { wallId = '' } = useParams();
  const draft = useWall(wallId);
  if (draft.error) return <Failed error={draft.error} />;
  if (!draft.wall) return <Waiting what="the wall" />;
  return <Wall key={wallId} draft={draft} wall={draft.wall} />;
}

const dresses: { value: WallDress; label: string }[] = [
  { value: 'colour', label: 'In colour' },
  { value: 'one', label: 'One colour' },
  { value: 'greys', label: 'Greys' },
];

function Wall({ draft, wall }: { draft: WallDraft; wall: WallView }) {
  const own = useBrandOf(wall.brandId);
  const { data: grounds = [] } = useQuery(groundsQuery(wall.brandId));
  const [chosen, setChosen] = useState<string | null>(null);
  const [isWriting, setWriting] = useState<'mending' | 'writing' | null>(null);
  const [isPicking, setPicking] = useState(false);
  const [exported, setExported] = useState<string | null>(null);
  const { rule, slots } = wall;
  const places = placesOf(wall);
  const usual = usualSize(places);
  const broken = toMend(wall);
  const isChecking = draft.unchecked.length > 0;
  const slot = slots.find((s) => s.id === chosen) ?? broken[0] ?? slots[0] ?? null;
  const choices = groundChoices(own?.palette ?? [], grounds);
  const photo = grounds.find((g) => g.id === rule.groundId)?.picture ?? null;
  const add = async (files: readonly File[]) => draft.add(await filesOfDrop(files));
  const drop = useDropzone({ onDrop: (files) => void add(files), noClick: true, noKeyboard: true });
  // Files that were dropped on the list of walls are this one's.
  useEffect(() => {
    const files = takeNewFiles(wall.id);
    if (files.length > 0) void add(files);
  }, [wall.id]);
  const mend = (which?: readonly SlotView[]) =>
    draft.step(() => send<WallView>('POST', paths.wallMend(wall.id), which ? { slots: which.map((s) => s.id) } : {}));
  const busy = async (what: 'mending' | 'writing', work: () => Promise<unknown>) => {
    setWriting(what);
    await work().catch(draft.tell);
    setWriting(null);
  };
  const write = async (form: 'files' | 'picture' | 'pdf', problems: 'refuse' | 'fix' | 'keep') => {
    await draft.settle();
    await busy('writing', async () => {
      setExported(null);
      // The server checks again what it exports, and fixes or refuses it: this screen may be older than the wall.
      const headers = await download(paths.wallOut(wall.id), { form, problems });
      const counts = headers.get(WALL_RECEIPT_HEADER);
      if (counts) setExported(exportedWords(JSON.parse(counts) as WallCounts));
    });
    await draft.step(() => send<WallView>('GET', paths.wall(wall.id)));
  };
  const order = (ids: string[]) => {
    const before = slots.map((s) => s.id);
    const without = (list: readonly string[], id: string) => list.filter((own) => own !== id).join();
    // The one that was moved is the one without which both lists are alike.
    const id = ids.find((own, k) => own !== before[k] && without(ids, own) === without(before, own));
    if (id) void draft.step(() => send<WallView>('PATCH', paths.wallSlot(id), { position: ids.indexOf(id) }));
  };
  const usualWay = broken.length > 0 ? 'fix' : 'refuse';
  const first = broken.length > 0 ? `Fix ${broken.length} and e` : 'E';
  const others = [
    ...(broken.length === 0
      ? []
      : [{ key: 'anyway', label: 'Export without fixing', onClick: () => void write('files', 'keep') }]),
    { key: 'picture', label: `${first}xport one picture, PNG`, onClick: () => void write('picture', usualWay) },
    { key: 'pdf', label: `${first}xport a PDF`, onClick: () => void write('pdf', usualWay) },
  ];
  return (
    <div {...drop.getRootProps({ className: 'wall' })}>
      <input {...drop.getInputProps({ 'aria-label': 'Choose logos or a saved page' })} />
      <div className="wall-main">
        <header className="wall-head">
          <NameField
            what="wall"
            className="wall-name"
            key={wall.name}
            name={wall.name}
            onCommit={(name) => void draft.change({ name })}
          />
          <span className="soft">
            {slots.length} {slots.length === 1 ? 'logo' : 'logos'}
            {broken.length > 0 && <span className="warn"> · {broken.length} to mend</span>}
          </span>
          <span className="wall-tools">
            <Segmented
              value={rule.dress}
              options={dresses}
              aria-label="Shown in"
              onChange={(dress) => draft.setRule({ ...rule, dress: dress as WallDress })}
            />
            {rule.dress === 'one' && (
              <Select
                aria-label="The one colour"
                value={rule.colour}
                options={choices.filter((c) => !c.id).map((c) => ({ value: c.hex, label: c.label }))}
                onChange={(colour) => draft.setRule({ ...rule, colour })}
                popupMatchSelectWidth={false}
              />
            )}
            <Select
              aria-label="Ground of the wall"
              value={rule.groundId ?? rule.ground}
              options={choices.map((c) => ({ value: c.key, label: `on ${c.label.toLowerCase()}` }))}
              onChange={(key) => {
                const choice = choices.find((c) => c.key === key);
                if (choice) draft.setRule({ ...rule, ground: choice.hex, groundId: choice.id });
              }}
              popupMatchSelectWidth={false}
            />
          </span>
        </header>
        {draft.problems.map((p) => (
          <p key={p} className="finding" role="alert">
            {p}
          </p>
        ))}
        {draft.doing && (
          <div className="wall-doing" role="status">
            <Progress
              percent={Math.round((draft.doing.done / draft.doing.of) * 100)}
              showInfo={false}
              strokeLinecap="butt"
            />
            <span>
              {draft.doing.done} of {draft.doing.of} {draft.doing.what}
            </span>
            <button type="button" className="plain" onClick={draft.cancel}>
              Cancel
            </button>
          </div>
        )}
        {slots.length === 0 ? (
          <div className="wall-empty">
            <b>Drop logos here</b>
            <p className="soft">
              Many together, a folder, or a saved web page with its pictures. Each gets a slot, and what is wrong with
              it is told.
            </p>
            <span>
              <Button onClick={drop.open}>Choose files</Button>
              <Button onClick={() => setPicking(true)}>Take marks of {own?.name ?? 'the brand'}</Button>
            </span>
          </div>
        ) : (
          <>
            <Sortable ids={slots.map((s) => s.id)} onOrder={order}>
              <div className="wall-grid">
                {slots.map((s) => (
                  <SlotCard
                    key={s.id}
                    slot={s}
                    place={places.get(s.id)}
                    rule={rule}
                    photo={photo}
                    usual={usual}
                    isChosen={s.id === slot?.id}
                    isOld={draft.unchecked.includes(s.id)}
                    onChoose={() => setChosen(s.id)}
                  />
                ))}
              </div>
            </Sortable>
            <p className="wall-more">
              <button type="button" className="plain" onClick={drop.open}>
                Add files
              </button>
              <button type="button" className="plain" onClick={() => setPicking(true)}>
                Add marks
              </button>
            </p>
          </>
        )}
      </div>
      {slots.length > 0 && (
        <aside className="wall-side" aria-label="Wall">
          <div className="wall-side-scroll">
            <WallSide
              wall={wall}
              slot={slot}
              places={places}
              usual={usual}
              isBusy={isWriting !== null}
              onChoose={setChosen}
              onMend={(s) => void busy('mending', () => mend([s]))}
              onSlot={(s, change) => void draft.step(() => send<WallView>('PATCH', paths.wallSlot(s.id), change))}
              onRemove={(s) => void draft.step(() => send<WallView>('DELETE', paths.wallSlot(s.id)))}
              onPreview={draft.preview}
              onRule={draft.setRule}
            />
          </div>
          <footer>
            <Button.Group className="wall-write">
              <Button
                type="primary"
                loading={isWriting !== null}
                disabled={isChecking}
                onClick={() => void write('files', usualWay)}
              >
                {isWriting
                  ? isWriting === 'mending'
                    ? 'Fixing…'
                    : 'Exporting…'
                  : isChecking
                    ? `Checking ${draft.unchecked.length} of ${slots.length}…`
                    : exportLabel(wall, broken)}
              </Button>
              <Dropdown menu={{ items: others }} trigger={['click']} disabled={isWriting !== null || isChecking}>
                <Button type="primary" aria-label="Other ways to write it">
                  ▾
                </Button>
              </Dropdown>
            </Button.Group>
            {exported && (
              <p className="small" role="status">
                {exported}
              </p>
            )}
            <ProofLink kind="wall" targetId={wall.id} title={wall.name} settle={draft.settle} />
          </footer>
        </aside>
      )}
      {isPicking && (
        <MarkPicker
          brandId={wall.brandId}
          taken={slots.map((s) => s.markId)}
          onClose={() => setPicking(false)}
          onPick={(marks) => {
            setPicking(false);
            void draft.step(() => send<WallView>('POST', paths.wallSlots(wall.id), { marks }));
          }}
        />
      )}
      {drop.isDragActive && (
        <div className="drop-veil" aria-hidden="true">
          <span>Drop to hang them up</span>
        </div>
      )}
    </div>
  );
}

interface PickerProps {
  readonly brandId: string;
  readonly taken: readonly string[];
  readonly onClose: () => void;
  readonly onPick: (marks: string[]) => void;
}

function MarkPicker({ brandId, taken, onClose, onPick }: PickerProps) {
  const { data: marks = [] } = useQuery(marksQuery(brandId));
  const [chosen, setChosen] = useState<string[]>([]);
  const open = marks.filter((m) => !taken.includes(m.id));
  return (
    <Modal
      open
      title="Marks for this wall"
      okText={chosen.length === 0 ? 'Add' : `Add ${chosen.length}`}
      okButtonProps={{ disabled: chosen.length === 0 }}
      onOk={() => onPick(chosen)}
      onCancel={onClose}
    >
      {open.length === 0 ? (
        <p className="soft">All marks of this brand hang here already.</p>
      ) : (
        <div className="wall-picker">
          {open.map((m) => (
            <button
              key={m.id}
              type="button"
              aria-pressed={chosen.includes(m.id)}
              onClick={() => setChosen(chosen.includes(m.id) ? chosen.filter((id) => id !== m.id) : [...chosen, m.id])}
            >
              <img src={paths.markThumbnail(m.id, m.revision)} alt="" />
              <span>{m.name}</span>
            </button>
          ))}
        </div>
      )}
    </Modal>
  );
}

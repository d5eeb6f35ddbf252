import './files.css';
import { Button, Input } from 'antd';
import { useMemo } from 'react';
import type { MarkView } from '../../../contract/views';
import { purposes } from '../../../core/purposes';
import { nameTokens } from '../../../core/recipe/fileNames';
import { fitSize } from '../../../core/recipe/fitSize';
import { type Recipe, type SizeLine, lineOf } from '../../../core/recipe/recipe';
import type { StrokeWidths } from '../../../core/trace/strokeWidths';
import { type Shown, masterOf } from '../../data/useEngine';
import type { RecipeDraft } from '../../data/useRecipeDraft';
import { DeliveryPanel } from './DeliveryPanel';
import { LineTable } from './LineTable';
import { planLines } from './planLines';

interface Props {
  readonly mark: MarkView;
  readonly draft: RecipeDraft;
  readonly shown: Shown | null;
  readonly strokes: StrokeWidths | null;
  readonly brandName: string;
}

const freshId = (k = 0) => `line-${Date.now().toString(36)}-${k}`;

/** Size lines, names, warnings before writing, and one delivery of all files. */
export function FilesStage({ mark, draft, shown, strokes, brandName }: Props) {
  const { recipe } = draft;
  const master = masterOf(shown);
  const planned = useMemo(
    () =>
      planLines(
        recipe,
        { brand: brandName, mark: mark.name, date: new Date().toISOString().slice(0, 10), version: mark.revision },
        master,
        strokes?.thinnestPx ?? null,
      ),
    [recipe, brandName, mark.name, mark.revision, master, strokes],
  );
  const problem = planned.find((p) => p.problem !== null)?.problem ?? null;
  const change = (files: Recipe['files'], why: string) => draft.commit({ ...recipe, files }, why);
  const { lines } = recipe.files;
  const setLines = (next: readonly SizeLine[], why: string) => change({ ...recipe.files, lines: next }, why);
  const addLine = () => {
    const last = lines.at(-1) ?? lineOf('', recipe.variants[0].id, fitted('web', master));
    setLines([...lines, { ...last, id: freshId() }], 'Add a size line');
  };
  const addForAll = (id: string) => {
    const added = recipe.variants.map((v, k) => lineOf(freshId(k), v.id, purposes.get(id)));
    setLines([...lines, ...added], `Add ${purposes.get(id).title.toLowerCase()} sizes`);
  };
  return (
    <div className="files">
      <section className="files-lines" aria-label="Size lines">
        <header className="files-head">
          <h2>Files</h2>
          <span className="soft">One row, one file. All are made together and read back.</span>
        </header>
        <label className="files-pattern">
          <b>Name</b>
          <PatternInput
            key={recipe.files.pattern}
            value={recipe.files.pattern}
            onCommit={(pattern) => change({ ...recipe.files, pattern }, 'Change the naming pattern')}
          />
          <span className="soft small">{nameTokens.map((t) => `{${t}}`).join(' ')}</span>
        </label>
        {(problem ?? draft.problem) && (
          <p className="finding" role="alert">
            {problem ?? draft.problem}
          </p>
        )}
        <LineTable
          planned={planned}
          variants={recipe.variants}
          onChange={(line) =>
            setLines(
              lines.map((l) => (l.id === line.id ? line : l)),
              'Change a size line',
            )
          }
          onRemove={(line) =>
            setLines(
              lines.filter((l) => l.id !== line.id),
              'Remove a size line',
            )
          }
          onOrder={(ids) =>
            setLines(
              ids.map((id) => lines.find((l) => l.id === id) as SizeLine),
              'Order the size lines',
            )
          }
        />
        <div className="files-add">
          <Button onClick={addLine}>Add a line</Button>
          <span className="soft">or for all variants:</span>
          {purposes.all.map((p) => (
            <button key={p.id} type="button" className="plain" title={p.hint} onClick={() => addForAll(p.id)}>
              {p.title.toLowerCase()}
            </button>
          ))}
        </div>
      </section>
      <DeliveryPanel
        mark={mark}
        draft={draft}
        count={planned.length}
        isBlocked={problem !== null}
        enlarged={planned.filter((p) => p.enlargement > 1.01).length}
        thin={planned.filter((p) => p.thin !== null).length}
        hasExtents={master === null || master.extents !== null}
      />
    </div>
  );
}

/** A purpose whose size does not enlarge the mark. */
function fitted(id: string, master: ReturnType<typeof masterOf>) {
  const purpose = purposes.get(id);
  const extents = master?.hasPaths ? null : master?.exactExtents;
  return extents ? { ...purpose, size: fitSize(purpose.size, extents) } : purpose;
}

function PatternInput({ value, onCommit }: { value: string; onCommit: (value: string) => void }) {
  const commit = (text: string) => text.trim() && text !== value && onCommit(text.trim());
  return (
    <Input
      aria-label="Naming pattern"
      defaultValue={value}
      maxLength={120}
      onBlur={(e) => commit(e.target.value)}
      onPressEnter={(e) => commit(e.currentTarget.value)}
      style={{ width: 300 }}
    />
  );
}

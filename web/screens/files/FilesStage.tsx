import './files.css';
import { Button, Input } from 'antd';
import { useMemo } from 'react';
import type { MarkView } from '../../../contract/views';
import { nameByPattern, nameTokens, uniqueNames } from '../../../core/recipe/fileNames';
import { layOutFile } from '../../../core/recipe/makeFilePicture';
import type { Recipe, SizeLine } from '../../../core/recipe/recipe';
import { purposes } from '../../../core/purposes';
import { wordsFor } from '../../messages';
import type { Engine } from '../bench/useEngine';
import type { RecipeDraft } from '../bench/useRecipeDraft';
import { DeliveryPanel } from './DeliveryPanel';
import { SizeLineRow } from './SizeLineRow';

interface Props {
  readonly mark: MarkView;
  readonly draft: RecipeDraft;
  readonly engine: Engine;
  readonly brandName: string;
}

/** What a size line will come to, before it is made. */
export interface PlannedLine {
  readonly line: SizeLine;
  readonly name: string;
  readonly height: number | null;
  readonly enlargement: number;
  readonly problem: string | null;
}

/** Size lines, names, warnings before writing, and one delivery of all files. */
export function FilesStage({ mark, draft, engine, brandName }: Props) {
  const { recipe } = draft;
  const extents = (engine.full ?? engine.quick)?.extents ?? null;
  const { planned, problem } = useMemo(
    () => plan(recipe, { brand: brandName, mark: mark.name }, extents),
    [recipe, brandName, mark.name, extents],
  );
  const change = (files: Recipe['files'], why: string) => draft.commit({ ...recipe, files }, why);
  const setLine = (line: SizeLine) =>
    change(
      { ...recipe.files, lines: recipe.files.lines.map((l) => (l.id === line.id ? line : l)) },
      'Change a size line',
    );
  const addLine = () => {
    const last = recipe.files.lines.at(-1);
    const web = purposes.get('web');
    const line: SizeLine = {
      variant: last?.variant ?? recipe.variants[0].id,
      purpose: last?.purpose ?? 'web',
      widthPx: last?.widthPx ?? web.widthPx,
      paddingPct: last?.paddingPct ?? 0,
      format: 'png',
      id: `line-${Date.now().toString(36)}`,
    };
    change({ ...recipe.files, lines: [...recipe.files.lines, line] }, 'Add a size line');
  };
  const addForAll = (purposeId: string) => {
    const p = purposes.get(purposeId);
    const lines = recipe.variants.map((v, k): SizeLine => ({
      id: `line-${Date.now().toString(36)}-${k}`,
      variant: v.id,
      purpose: p.id,
      widthPx: p.widthPx,
      paddingPct: p.paddingPct,
      format: 'png',
    }));
    change({ ...recipe.files, lines: [...recipe.files.lines, ...lines] }, `Add ${p.title.toLowerCase()} sizes`);
  };
  return (
    <div className="files">
      <section className="files-lines" aria-label="Size lines">
        <header className="files-head">
          <h1>Files</h1>
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
        <table className="lines">
          <thead>
            <tr>
              <th>Variant</th>
              <th>Purpose</th>
              <th>Width</th>
              <th>Clear space</th>
              <th>File</th>
              <th>
                <span className="visually-hidden">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {planned.map((p) => (
              <SizeLineRow
                key={p.line.id}
                planned={p}
                variants={recipe.variants}
                onChange={setLine}
                onRemove={() =>
                  change(
                    { ...recipe.files, lines: recipe.files.lines.filter((l) => l.id !== p.line.id) },
                    'Remove a size line',
                  )
                }
              />
            ))}
          </tbody>
        </table>
        {planned.length === 0 && <p className="soft">No size line yet. Add one, or a purpose for all variants.</p>}
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
        isBlocked={problem !== null || planned.some((p) => p.problem !== null)}
        enlarged={planned.filter((p) => p.enlargement > 1.01).length}
        hasExtents={extents !== null}
      />
    </div>
  );
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

function plan(
  recipe: Recipe,
  names: { brand: string; mark: string },
  extents: { x: number; y: number; width: number; height: number } | null,
): { planned: PlannedLine[]; problem: string | null } {
  let problem: string | null = null;
  const planned = recipe.files.lines.map((line): PlannedLine => {
    const variant = recipe.variants.find((v) => v.id === line.variant);
    try {
      const layout = extents ? layOutFile(extents, line) : null;
      const name = nameByPattern(recipe.files.pattern, {
        ...names,
        variant: variant?.name ?? '',
        purpose: purposes.get(line.purpose).title,
        width: line.widthPx,
        height: layout?.height ?? 0,
      });
      return { line, name, height: layout?.height ?? null, enlargement: layout?.enlargement ?? 0, problem: null };
    } catch (error) {
      const words = wordsFor(error);
      problem = words;
      return { line, name: '', height: null, enlargement: 0, problem: words };
    }
  });
  const unique = uniqueNames(planned.map((p) => p.name));
  return { planned: planned.map((p, k) => ({ ...p, name: unique[k] })), problem };
}

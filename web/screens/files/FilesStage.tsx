import './files.css';
import { Input } from 'antd';
import { useMemo, useState } from 'react';
import type { BrandView, MarkView } from '../../../contract/views';
import { fileFindings } from '../../../core/recipe/fileFindings';
import type { RectPx } from '../../../core/params';
import { purposes } from '../../../core/purposes';
import { nameTokens } from '../../../core/recipe/fileNames';
import { type Recipe, type SizeLine, lineOf } from '../../../core/recipe/recipe';
import { linesByStandard, standardOf } from '../../../core/recipe/standardLines';
import type { MarkWidths } from '../../../core/recipe/thinLines';
import type { ProofGround } from '../../data/proofGrounds';
import { type Engine, type Shown, masterOf } from '../../data/useEngine';
import type { RecipeDraft } from '../../data/useRecipeDraft';
import { useVariants } from '../variants/useVariants';
import { AddLines } from './AddLines';
import { DeliveryPanel } from './DeliveryPanel';
import { LinePanel } from './LinePanel';
import { LiveLine } from './LiveLine';
import { LineTable } from './LineTable';
import { StandardSet } from './StandardSet';
import { bytesWords } from './bytesWords';
import { multiplesOf } from './multiples';
import { type KnownExtents, planLines } from './planLines';
import type { BrandFiles } from './useBrandFiles';
import { usePages } from './usePages';

interface Props {
  readonly mark: MarkView;
  readonly draft: RecipeDraft;
  readonly engine: Engine;
  readonly shown: Shown | null;
  readonly strokes: MarkWidths | null;
  readonly brand: BrandView;
  readonly grounds: readonly ProofGround[];
  readonly brandFiles: BrandFiles;
}

const freshId = (k = 0) => `line-${Date.now().toString(36)}-${k}`;

/** Size lines, names, what is to be said before writing, and one delivery of all files. */
export function FilesStage({ mark, draft, engine, shown, strokes, brand, grounds, brandFiles }: Props) {
  const { recipe } = draft;
  const { lines } = recipe.files;
  const master = masterOf(shown);
  const plan = useMemo(() => {
    const date = new Date().toISOString().slice(0, 10);
    const names = { brand: brand.name, mark: mark.name, date, version: mark.revision };
    return (drawn?: KnownExtents) => planLines(recipe, names, master, strokes?.thinnestPx ?? null, drawn);
  }, [recipe, brand.name, mark.name, mark.revision, master, strokes]);
  const asked = useMemo(() => plan(), [plan]);
  const [chosenId, setChosen] = useState<string | null>(null);
  const chosenLine = asked.find((p) => p.line.id === chosenId) ?? asked[0] ?? null;
  const { shown: variants } = useVariants(engine, recipe, grounds, brand.palette);
  const pages = usePages(engine.whole, recipe, asked, chosenLine?.line.id ?? null, brand.palette);
  const planned = useMemo(() => plan(pages), [plan, pages]);
  const row = planned.find((p) => p.line.id === chosenLine?.line.id) ?? null;
  const extents = master?.exactExtents ?? null;
  const findings = useMemo(
    () =>
      new Map(
        planned.map(({ line, layout, thin }) => {
          if (!layout || !extents) return [line.id, []];
          const page = pages.get(line.id);
          const known = { page: page?.facts ?? null, keyClash: page?.keyClash ?? null };
          return [line.id, fileFindings({ line, layout, mark: extents, thin, ...known })];
        }),
      ),
    [planned, pages, extents],
  );
  const change = (files: Recipe['files'], why: string) => draft.commit({ ...recipe, files }, why);
  const setLines = (next: readonly SizeLine[], why: string) => change({ ...recipe.files, lines: next }, why);
  const add = (fresh: readonly SizeLine[], why: string, after = lines.length) => {
    setLines([...lines.slice(0, after), ...fresh, ...lines.slice(after)], why);
    if (fresh[0]) setChosen(fresh[0].id);
  };
  const addLine = () => {
    const last = lines.at(-1) ?? lineOf('', recipe.variants[0].id, purposes.get('web'));
    const { name: _, ...rest } = last;
    add([{ ...rest, id: freshId() }], 'Add a size line');
  };
  const problem = planned.find((p) => p.problem !== null)?.problem ?? null;
  // A sum of some of them would pass for all.
  const isSummed = planned.length > 0 && planned.every((p) => p.problem !== null || pages.has(p.line.id));
  const total = [...pages.values()].reduce((sum, p) => sum + p.bytes, 0);
  const fileCount = planned.reduce((n, p) => n + (p.pairName ? 2 : 1), 0);
  const at = row ? lines.findIndex((l) => l.id === row.line.id) : -1;
  return (
    <div className="files">
      <section className="files-lines" aria-label="Size lines">
        <header className="files-head">
          <h2>Files</h2>
          <span className="soft">
            {fileCount} {fileCount === 1 ? 'file' : 'files'}
            {isSummed ? total > 0 && `, about ${bytesWords(total)}` : planned.length > 0 && ', working out their bytes'}
          </span>
          <StandardSet
            lines={brand.standardLines}
            onUse={() => {
              const standard = brand.standardLines ?? [];
              setLines(linesByStandard(standard, recipe, freshId), 'Take the standard lines');
            }}
            onKeep={() => void brandFiles.setStandard(brand, standardOf(recipe))}
          />
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
        {(draft.problem ?? brandFiles.problem) && (
          <p className="finding" role="alert">
            {draft.problem ?? brandFiles.problem}
          </p>
        )}
        <LineTable
          planned={planned}
          variants={recipe.variants}
          shown={variants}
          grounds={grounds}
          pages={pages}
          findings={findings}
          chosen={row?.line.id ?? null}
          onChoose={setChosen}
          onChange={(line) => setLines(replaced(lines, line), 'Change a size line')}
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
        <AddLines
          variants={recipe.variants}
          ownPurposes={brand.ownPurposes}
          onLine={addLine}
          onMany={(many, why) =>
            add(
              many.map((line, k) => ({ ...line, id: freshId(k) })),
              why,
            )
          }
        />
      </section>
      <aside className="files-side" aria-label="The chosen file and the delivery">
        {row && (
          <LinePanel
            live={<LiveLine brandId={brand.id} markId={mark.id} lineId={row.line.id} settle={draft.settle} />}
            key={row.line.id}
            row={row}
            page={pages.get(row.line.id)}
            thinnest={strokes && extents ? thinnestIn(strokes, extents) : null}
            findings={findings.get(row.line.id) ?? []}
            grounds={grounds}
            onChange={(line, why = 'Change a size line') => setLines(replaced(lines, line), why)}
            onCopy={() => {
              const { name: _, ...line } = row.line;
              add([{ ...line, id: freshId() }], 'Copy a size line', at + 1);
            }}
            onMultiples={() => add(multiplesOf({ ...row.line, size: row.size }, freshId), 'Add 2× and 3×', at + 1)}
            onKeepPurpose={(purpose) => void brandFiles.addPurpose(brand, purpose)}
          />
        )}
        <DeliveryPanel
          mark={mark}
          draft={draft}
          count={fileCount}
          isBlocked={problem !== null}
          hasExtents={master === null || master.extents !== null}
        />
      </aside>
    </div>
  );
}

const thinnestIn = ({ thinnestPx, place }: MarkWidths, e: RectPx) => ({
  width: thinnestPx / e.width,
  x: (place.x - e.x) / e.width,
  y: (place.y - e.y) / e.height,
});

const replaced = (lines: readonly SizeLine[], line: SizeLine) => lines.map((l) => (l.id === line.id ? line : l));

function PatternInput({ value, onCommit }: { value: string; onCommit: (value: string) => void }) {
  const commit = (text: string) => text.trim() && text !== value && onCommit(text.trim());
  return (
    <Input
      aria-label="Naming pattern"
      defaultValue={value}
      maxLength={120}
      onBlur={(e) => commit(e.target.value)}
      onPressEnter={(e) => commit(e.currentTarget.value)}
      style={{ width: 260 }}
    />
  );
}

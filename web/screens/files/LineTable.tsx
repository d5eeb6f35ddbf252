import { Input, Select } from 'antd';
import { type KeyboardEvent, useState } from 'react';
import { formats } from '../../../core/formats';
import { purposes } from '../../../core/purposes';
import type { FileFinding } from '../../../core/recipe/fileFindings';
import { type SizeLine, type Variant, partOf } from '../../../core/recipe/recipe';
import { sizes } from '../../../core/sizes';
import type { VariantDone } from '../../../worker/protocol';
import { Sortable, useSortableItem } from '../../components/Sortable';
import type { ProofGround } from '../../data/proofGrounds';
import { VariantPicture } from '../variants/VariantPicture';
import { bestGround } from '../variants/bestOn';
import { bytesWords } from './bytesWords';
import type { PlannedLine } from './planLines';
import type { PageKnown } from './usePages';

interface Props {
  readonly planned: readonly PlannedLine[];
  readonly variants: readonly Variant[];
  readonly shown: ReadonlyMap<string, VariantDone>;
  readonly grounds: readonly ProofGround[];
  readonly pages: ReadonlyMap<string, PageKnown>;
  readonly findings: ReadonlyMap<string, readonly FileFinding[]>;
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
  readonly onChange: (line: SizeLine) => void;
  readonly onRemove: (line: SizeLine) => void;
  readonly onOrder: (ids: string[]) => void;
}

/** Size lines as a table: one row, one file or a pair. The chosen row is looked at beside it. */
export function LineTable(props: Props) {
  const { planned, chosen, onChoose, onOrder } = props;
  if (planned.length === 0) return <p className="soft">No size line yet. Add one, or a purpose for all variants.</p>;
  const move = (e: KeyboardEvent<HTMLTableElement>) => {
    const isRow = (e.target as HTMLElement).tagName === 'TR';
    const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (!isRow || !step) return;
    e.preventDefault();
    const at = planned.findIndex((p) => p.line.id === chosen);
    const next = planned[Math.max(0, Math.min(planned.length - 1, at + step))];
    onChoose(next.line.id);
    e.currentTarget.querySelector<HTMLElement>(`[data-line="${next.line.id}"]`)?.focus();
  };
  return (
    <Sortable ids={planned.map((p) => p.line.id)} onOrder={onOrder}>
      <table className="lines" onKeyDown={move}>
        <thead>
          <tr>
            <th>
              <span className="visually-hidden">Order and picture</span>
            </th>
            <th>Variant</th>
            <th>Size</th>
            <th>Format</th>
            <th>Name</th>
            <th className="number">Bytes</th>
            <th>
              <span className="visually-hidden">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {planned.map((row) => (
            <Row key={row.line.id} row={row} {...props} />
          ))}
        </tbody>
      </table>
    </Sortable>
  );
}

function Row({ row, ...props }: Props & { row: PlannedLine }) {
  const { variants, shown, grounds, pages, findings, chosen, onChoose, onChange, onRemove } = props;
  const { line, name, problem } = row;
  const { ref, style, handle } = useSortableItem(line.id, 'this line');
  const done = shown.get(line.variant) ?? null;
  const page = pages.get(line.id);
  const isChosen = line.id === chosen;
  const found = findings.get(line.id) ?? [];
  const setFormat = (id: string) => onChange({ ...line, format: partOf(formats, id) });
  return (
    <tr
      ref={ref}
      style={style}
      data-line={line.id}
      tabIndex={isChosen ? 0 : -1}
      aria-selected={isChosen}
      className={isChosen ? 'is-chosen' : ''}
      onClick={() => onChoose(line.id)}
      onFocus={() => !isChosen && onChoose(line.id)}
    >
      <td>
        <span className="lines-picture">
          {handle}
          <VariantPicture
            done={done}
            ground={bestGround(done, grounds)}
            photo={null}
            name={variants.find((v) => v.id === line.variant)?.name ?? ''}
            isSmall
          />
        </span>
      </td>
      <td>
        <Select
          size="small"
          variant="borderless"
          aria-label="Variant"
          value={line.variant}
          popupMatchSelectWidth={false}
          options={variants.map((v) => ({ value: v.id, label: v.name }))}
          onChange={(variant) => onChange({ ...line, variant })}
        />
      </td>
      <td>
        {row.isPending ? (
          <span className="measuring">measuring</span>
        ) : (
          sizes.get(row.size.id).describe(row.size.params as never)
        )}
        {['web'].includes(line.purpose) || (
          <span className="soft small"> · {purposes.get(line.purpose).title.toLowerCase()}</span>
        )}
        {found.map((f) => (
          <span key={f.id} className="lines-finding warn small">
            {f.title}
          </span>
        ))}
      </td>
      <td>
        <Select
          size="small"
          variant="borderless"
          aria-label="Format"
          value={line.format.id}
          popupMatchSelectWidth={false}
          options={formats.all.map((f) => ({ value: f.id, label: f.title }))}
          onChange={setFormat}
        />
      </td>
      <td className="lines-file">
        {problem ? (
          <span className="warn small">{problem}</span>
        ) : row.isPending ? (
          <span className="measuring small">named once it is measured</span>
        ) : (
          <NameField key={`${name}-${line.name ?? ''}`} row={row} onChange={onChange} />
        )}
        {row.pairName && <span className="soft small">and {row.pairName}</span>}
        {row.hasClash && <span className="warn small">numbered: another file has this name</span>}
      </td>
      <td className="number soft">{page ? `~ ${bytesWords(page.bytes)}` : ''}</td>
      <td>
        <button
          type="button"
          className="plain"
          aria-label={`Remove ${name || 'this line'}`}
          onClick={(e) => {
            e.stopPropagation();
            onRemove(line);
          }}
        >
          ✕
        </button>
      </td>
    </tr>
  );
}

/** A file's name: by the pattern until somebody types one; emptied it follows the pattern again. */
function NameField({ row: { line, name }, onChange }: { row: PlannedLine; onChange: Props['onChange'] }) {
  const [text, setText] = useState(line.name ?? name);
  const commit = () => {
    const typed = text.trim();
    if (typed === (line.name ?? name)) return;
    const { name: _, ...rest } = line;
    onChange(typed === '' || typed === name ? rest : { ...line, name: typed });
  };
  return (
    <Input
      size="small"
      variant="borderless"
      aria-label="Name of the file"
      title={name}
      className={line.name === undefined ? '' : 'is-own'}
      value={text}
      maxLength={200}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onPressEnter={commit}
    />
  );
}

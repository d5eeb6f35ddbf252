import { Select, Table } from 'antd';
import type { ColumnsType } from 'antd/es/table';
import { createContext, useContext } from 'react';
import { formats } from '../../../core/formats';
import { initialValues, metaOf } from '../../../core/params';
import { purposes } from '../../../core/purposes';
import { type Part, type SizeLine, type Variant, lineOf, partOf } from '../../../core/recipe/recipe';
import type { Registry, WithParams } from '../../../core/registry';
import { sizes } from '../../../core/sizes';
import { SettingControl } from '../../components/SettingRow';
import { Sortable, useSortableItem } from '../../components/Sortable';
import type { PlannedLine } from './planLines';

interface Props {
  readonly planned: readonly PlannedLine[];
  readonly variants: readonly Variant[];
  readonly onChange: (line: SizeLine) => void;
  readonly onRemove: (line: SizeLine) => void;
  readonly onOrder: (ids: string[]) => void;
}

/** Size lines as a table: one row, one file. Everything is edited in place. */
export function LineTable({ planned, variants, onChange, onRemove, onOrder }: Props) {
  const columns: ColumnsType<PlannedLine> = [
    { key: 'order', title: <span className="visually-hidden">Order</span>, width: 26, render: () => <Handle /> },
    {
      key: 'variant',
      title: 'Variant',
      width: 116,
      render: (_, { line }) => (
        <Select
          size="small"
          aria-label="Variant"
          value={line.variant}
          style={{ width: 108 }}
          options={variants.map((v) => ({ value: v.id, label: v.name }))}
          onChange={(variant) => onChange({ ...line, variant })}
        />
      ),
    },
    {
      key: 'purpose',
      title: 'Purpose',
      width: 126,
      render: (_, { line }) => (
        <Select
          size="small"
          aria-label="Purpose"
          value={line.purpose}
          style={{ width: 118 }}
          options={purposes.all.map((p) => ({ value: p.id, label: p.title }))}
          onChange={(id) => onChange(lineOf(line.id, line.variant, purposes.get(id)))}
        />
      ),
    },
    {
      key: 'size',
      title: 'Size',
      width: 266,
      render: (_, { line }) => (
        <PartChoice registry={sizes} name="Size" part={line.size} onChange={(size) => onChange({ ...line, size })} />
      ),
    },
    {
      key: 'format',
      title: 'Format',
      width: 90,
      render: (_, { line }) => (
        <PartChoice
          registry={formats}
          name="Format"
          part={line.format}
          onChange={(format) => onChange({ ...line, format })}
        />
      ),
    },
    { key: 'file', title: 'File', ellipsis: true, render: (_, row) => <FileCell row={row} /> },
    {
      key: 'remove',
      title: <span className="visually-hidden">Remove</span>,
      width: 34,
      render: (_, { line, name }) => (
        <button
          type="button"
          className="plain"
          aria-label={`Remove ${name || 'this line'}`}
          onClick={() => onRemove(line)}
        >
          ✕
        </button>
      ),
    },
  ];
  return (
    <Sortable ids={planned.map((p) => p.line.id)} onOrder={onOrder}>
      <Table<PlannedLine>
        className="lines"
        size="small"
        tableLayout="fixed"
        rowKey={(p) => p.line.id}
        columns={columns}
        dataSource={[...planned]}
        pagination={false}
        components={{ body: { row: SortableRow } }}
        locale={{ emptyText: 'No size line yet. Add one, or a purpose for all variants.' }}
      />
    </Sortable>
  );
}

const HandleContext = createContext<React.ReactNode>(null);
const Handle = () => useContext(HandleContext);

function SortableRow(props: React.HTMLAttributes<HTMLTableRowElement> & { 'data-row-key'?: string }) {
  const id = props['data-row-key'];
  return id === undefined ? <tr {...props} /> : <OrderedRow {...props} id={id} />;
}

function OrderedRow({ id, ...props }: React.HTMLAttributes<HTMLTableRowElement> & { id: string }) {
  const { ref, style, handle } = useSortableItem(id, 'this line');
  return (
    <HandleContext value={handle}>
      <tr {...props} ref={ref} style={{ ...props.style, ...style }} />
    </HandleContext>
  );
}

/** Controls as narrow as a row of a table asks. */
const NUMBER_WIDTH = 86;

function PartChoice({
  registry,
  name,
  part,
  onChange,
}: {
  registry: Registry<WithParams>;
  name: string;
  part: Part;
  onChange: (part: Part) => void;
}) {
  const { params } = registry.get(part.id);
  return (
    <span className="part-choice">
      <Select
        size="small"
        aria-label={name}
        value={part.id}
        popupMatchSelectWidth={false}
        options={registry.all.map((d) => ({ value: d.id, label: d.title }))}
        onChange={(id) => onChange(partOf(registry, id, sharedOf(registry, id, part)))}
      />
      {Object.entries(params).map(([setting, schema]) => (
        <span key={setting} className="part-setting">
          {needsName(metaOf(schema).label, registry.get(part.id).title) && (
            <span className="soft small">{metaOf(schema).label.toLowerCase()}</span>
          )}
          <SettingControl
            meta={metaOf(schema)}
            value={part.params[setting]}
            width={NUMBER_WIDTH}
            onCommit={(value) => onChange({ id: part.id, params: { ...part.params, [setting]: value } })}
          />
        </span>
      ))}
    </span>
  );
}

/** Beside "Width" a field of its own that says px needs no name; others do. */
const needsName = (label: string, title: string) => label !== title;

/** Settings that another definition has too keep their values when it is chosen. */
function sharedOf(registry: Registry<WithParams>, id: string, part: Part): Record<string, unknown> {
  const own = initialValues(registry.get(id).params);
  return Object.fromEntries(Object.entries(part.params).filter(([setting]) => setting in own));
}

function FileCell({ row }: { row: PlannedLine }) {
  const { name, width, height, enlargement, thin, problem } = row;
  const round = (v: number) => Math.round(v * 10) / 10;
  return (
    <span className="lines-file">
      <span title={name} className={problem ? 'warn' : ''}>
        {problem ?? name}
      </span>
      <span className="soft small">
        {width !== null && height !== null && `${round(width)} × ${round(height)} px`}
        {enlargement > 1.01 && <span className="warn"> · enlarged {enlargement.toFixed(1)} times</span>}
        {thin && (
          <span className="warn" title={`Wide enough from ${thin.times.toFixed(1)} times this size on`}>
            {' '}
            · thinnest line {thin.width.toFixed(thin.unit === 'pt' ? 2 : 1)} {thin.unit}
          </span>
        )}
      </span>
    </span>
  );
}

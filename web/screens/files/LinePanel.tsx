import { MM_PER_INCH, POINTS_PER_INCH } from '../../../core/units';
import { Input, Select } from 'antd';
import { type ReactNode, useState } from 'react';
import type { FileFinding } from '../../../core/recipe/fileFindings';
import { whyOfFile } from '../../../core/why/why';
import { formats } from '../../../core/formats';
import { purposes } from '../../../core/purposes';
import { type SizeLine, lineOf, typedLine } from '../../../core/recipe/recipe';
import type { OwnPurpose } from '../../../core/recipe/standardLines';
import { sizes } from '../../../core/sizes';
import { lengthOnPaper } from '../../../core/sizes/physical';
import { Why } from '../../components/Why';
import { SettingRow } from '../../components/SettingRow';
import type { ProofGround } from '../../data/proofGrounds';
import { PagePreview } from './PagePreview';
import { PartFields } from './PartFields';
import type { PlannedLine } from './planLines';
import type { PageKnown } from './usePages';

interface Props {
  readonly row: PlannedLine;
  readonly page: PageKnown | undefined;
  /** The mark's thinnest line as shares of its extents: how wide it is, and where; null while that is not known. */
  readonly thinnest: ThinnestLine | null;
  readonly findings: readonly FileFinding[];
  readonly grounds: readonly ProofGround[];
  /** Its steady address. */
  readonly live: ReactNode;
  readonly onChange: (line: SizeLine, why?: string) => void;
  /** The same at two and three times its size. */
  readonly onMultiples: () => void;
  readonly onCopy: () => void;
  readonly onKeepPurpose: (purpose: OwnPurpose) => void;
}

export interface ThinnestLine {
  readonly width: number;
  readonly x: number;
  readonly y: number;
}

/** Where a mark's thinnest line comes to lie, as shares of the page. */
function placeOf({ layout }: PlannedLine, thinnest: ThinnestLine | null): { x: number; y: number } | null {
  if (!layout || !thinnest) return null;
  const { width, height, mark } = layout;
  return { x: (mark.x + thinnest.x * mark.width) / width, y: (mark.y + thinnest.y * mark.height) / height };
}

/** The chosen line: its file as it will be, what is to be said of it, and all of its settings. */
export function LinePanel({ row, page, thinnest, findings, grounds, live, onChange, ...acts }: Props) {
  const { line } = row;
  const purpose = purposes.get(line.purpose);
  const known = purpose.formats ?? formats.ids;
  return (
    <div className="line-panel">
      <PagePreview page={page} name={row.name} place={row.thin ? placeOf(row, thinnest) : null} grounds={grounds} />
      <dl className="facts">
        {factsOf(row, page, thinnest?.width ?? null).map(([term, words]) => (
          <div key={term}>
            <dt>{term}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      {row.problem && <p className="finding small">{row.problem}</p>}
      {findings.map((f) => (
        <p key={f.id} className="finding small">
          <b>{f.title[0].toUpperCase() + f.title.slice(1)}.</b> {f.detail}{' '}
          {f.mend && (
            <button
              type="button"
              className="plain small"
              onClick={() => f.mend && onChange(f.mend.line, `Mend: ${f.title}`)}
            >
              {f.mend.label}
            </button>
          )}{' '}
          <Why title={f.title} why={whyOfFile[f.id]} />
        </p>
      ))}
      <div className="panel-row">
        <span>
          <b>For</b>
          <small className="soft">{purpose.hint}</small>
        </span>
        <Select
          size="small"
          aria-label="Purpose"
          value={line.purpose}
          popupMatchSelectWidth={false}
          options={purposes.all.map((p) => ({ value: p.id, label: p.title }))}
          onChange={(id) => onChange(keepName(line, lineOf(line.id, line.variant, purposes.get(id))))}
        />
      </div>
      {Object.entries(purpose.params).map(([setting, schema]) => (
        <SettingRow
          key={setting}
          setting={schema as never}
          value={line.purposeParams?.[setting]}
          onCommit={(value) => onChange({ ...line, purposeParams: { ...line.purposeParams, [setting]: value } })}
        />
      ))}
      <PartFields
        registry={sizes}
        name="Size"
        part={row.size}
        onChange={(size) => onChange(typedLine({ ...line, size }))}
      />
      <p className="soft small">
        {line.fitted ? (
          'Follows the mark: smaller wherever this size would enlarge it.'
        ) : (
          <button type="button" className="plain small" onClick={() => onChange({ ...line, fitted: true })}>
            Follow the mark
          </button>
        )}
      </p>
      <PartFields
        registry={{ ...formats, all: formats.all.filter((f) => known.includes(f.id)) }}
        name="Format"
        part={line.format}
        onChange={(format) => onChange({ ...line, format })}
      />
      {live}
      <LineActs line={line} {...acts} />
    </div>
  );
}

const keepName = (before: SizeLine, line: SizeLine): SizeLine =>
  before.name === undefined ? line : { ...line, name: before.name };

function LineActs({
  line,
  onMultiples,
  onCopy,
  onKeepPurpose,
}: Pick<Props, 'onMultiples' | 'onCopy' | 'onKeepPurpose'> & { line: SizeLine }) {
  const [title, setTitle] = useState<string | null>(null);
  const keep = () => {
    const { purpose, purposeParams, size, format } = line;
    if (title?.trim()) onKeepPurpose({ title: title.trim(), purpose, purposeParams, size, format });
    setTitle(null);
  };
  return (
    <div className="panel-links">
      <button type="button" className="plain small" onClick={onCopy}>
        Copy the line
      </button>
      <button type="button" className="plain small" onClick={onMultiples}>
        Add 2× and 3×
      </button>
      {title === null ? (
        <button type="button" className="plain small" onClick={() => setTitle('')}>
          Keep as a purpose
        </button>
      ) : (
        <Input
          size="small"
          autoFocus
          aria-label="Name of the purpose"
          placeholder="Name of the purpose"
          value={title}
          maxLength={60}
          onChange={(e) => setTitle(e.target.value)}
          onPressEnter={keep}
          onBlur={keep}
          style={{ width: 150 }}
        />
      )}
    </div>
  );
}

function factsOf(
  { layout }: PlannedLine,
  page: PageKnown | undefined,
  thinnestShare: number | null,
): [string, string][] {
  if (!layout) return [];
  const { width, height, ppi, mark } = layout;
  const round = (v: number) => Math.round(v * 10) / 10;
  const facts: [string, string][] = [];
  if (ppi === null) facts.push(['Page', `${round(width)} × ${round(height)} px`]);
  else {
    const length = (px: number) => lengthOnPaper(Math.round((px / ppi) * MM_PER_INCH * 100) / 100);
    facts.push(['Page', `${length(width)} × ${length(height)}`]);
    if (page?.paths === null) facts.push(['Pixels', `${width} × ${height} at ${Math.round(ppi)} ppi`]);
  }
  if (page && page.paths !== null)
    facts.push(['Inside', `${page.paths} ${page.paths === 1 ? 'path' : 'paths'}, no picture, no text`]);
  if (thinnestShare !== null) {
    const px = thinnestShare * mark.width;
    facts.push([
      'Thinnest line',
      ppi === null ? `${px.toFixed(1)} px` : `${((px / ppi) * POINTS_PER_INCH).toFixed(2)} pt`,
    ]);
  }
  return facts;
}

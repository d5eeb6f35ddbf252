import { Dropdown, Segmented } from 'antd';
import { useState } from 'react';
import { alikeTo, groupOf } from '../../../../core/stages/areaChoices';
import type { AreaFact } from '../../../../core/stages/cutOutFacts';

interface Props {
  readonly areas: readonly AreaFact[];
  readonly onChoose: (areas: readonly AreaFact[], decision: 'open' | 'solid') => void;
}

const FEW = 6;
const options = [
  { value: 'open', label: 'open' },
  { value: 'solid', label: 'solid' },
];

/** Every enclosed area with its decision, unsure ones first; one, its group or all alike at a press. */
export function AreaList({ areas, onChoose }: Props) {
  const [showsAll, setShowsAll] = useState(false);
  const unsure = areas.filter((a) => a.isUnsure).length;
  const first = Math.max(FEW, Math.min(unsure, 12));
  const shown = showsAll ? areas : areas.slice(0, first);
  return (
    <section className="areas" aria-label="Enclosed areas">
      <div className="panel-row">
        <b>Enclosed areas</b>
        <span>
          {areas.length}
          {unsure > 0 && (
            <>
              {' '}
              · <span className="warn">{unsure} unsure</span>
            </>
          )}
        </span>
      </div>
      {unsure > 0 && (
        <p className="soft small">
          Press an area in the picture to flip it. Alt ↓ goes to the next unsure one, Enter flips it.
        </p>
      )}
      <ul>
        {shown.map((a) => (
          <li key={a.number}>
            <span className={`chip${a.isUnsure ? ' is-unsure' : ''}`}>{a.number}</span>
            <span className="areas-words">
              {a.isPale ? 'Paler patch' : 'Area'}, {a.areaPx.toLocaleString('en')} px
            </span>
            <More areas={areas} one={a} onChoose={onChoose} />
            <Segmented
              size="small"
              aria-label={`Area ${a.number}`}
              options={options}
              value={a.decision}
              onChange={(d) => onChoose([a], d as AreaFact['decision'])}
            />
          </li>
        ))}
      </ul>
      {areas.length > first && (
        <button type="button" className="plain small" onClick={() => setShowsAll(!showsAll)}>
          {showsAll ? 'Show the first few' : `Show all ${areas.length}`}
        </button>
      )}
    </section>
  );
}

function More({ areas, one, onChoose }: Props & { one: AreaFact }) {
  const other = one.decision === 'open' ? 'solid' : 'open';
  const [group, alike] = [groupOf(areas, one), alikeTo(areas, one)];
  const items = [
    ...(group.length > 1 ? [{ key: 'group', label: `Its group of ${group.length} to ${other}` }] : []),
    ...(alike.length > 1 ? [{ key: 'alike', label: `All ${alike.length} alike to ${other}` }] : []),
  ];
  if (items.length === 0) return null;
  return (
    <Dropdown
      trigger={['click']}
      menu={{ items, onClick: ({ key }) => onChoose(key === 'group' ? group : alike, other) }}
    >
      <button type="button" className="plain small" aria-label={`More areas like ${one.number}`}>
        alike
      </button>
    </Dropdown>
  );
}

import { Segmented } from 'antd';
import { useState } from 'react';
import type { AreaFact } from '../../../../core/stages/cutOut';

interface Props {
  readonly areas: readonly AreaFact[];
  readonly onToggle: (x: number, y: number, decision: 'open' | 'solid') => void;
}

const FEW = 6;
const options = [{ value: 'open', label: 'open' }, { value: 'solid', label: 'solid' }];

/** Every enclosed area with its decision, unsure ones first. */
export function AreaList({ areas, onToggle }: Props) {
  const [showsAll, setShowsAll] = useState(false);
  const unsure = areas.filter((a) => a.isUnsure).length;
  const first = Math.max(FEW, Math.min(unsure, 12));
  const shown = showsAll ? areas : areas.slice(0, first);
  return (
    <section className="areas" aria-label="Enclosed areas">
      <div className="panel-row"><b>Enclosed areas</b><span>{areas.length}{unsure > 0 && <> · <span className="warn">{unsure} unsure</span></>}</span></div>
      <ul>
        {shown.map((a) => (
          <li key={a.number}>
            <span className={`chip${a.isUnsure ? ' is-unsure' : ''}`}>{a.number}</span>
            <span className="areas-words">{a.isPale ? 'Paler patch' : 'Area'}, {a.areaPx.toLocaleString('en')} px</span>
            <Segmented size="small" aria-label={`Area ${a.number}`} options={options} value={a.decision} onChange={(d) => onToggle(a.x, a.y, d as AreaFact['decision'])} />
          </li>
        ))}
      </ul>
      {areas.length > first && <button type="button" className="plain small" onClick={() => setShowsAll(!showsAll)}>{showsAll ? 'Show the first few' : `Show all ${areas.length}`}</button>}
    </section>
  );
}

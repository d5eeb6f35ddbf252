import { Dropdown, Segmented } from 'antd';
import { useCallback, useMemo, useState } from 'react';
import { ASKS, type AreaRow, alikeTo, groupOf, questionsOf, rowsOf } from '../../../../core/stages/areaChoices';
import type { AreaFact } from '../../../../core/stages/cutOutFacts';
import { Canvas, fitBox } from '../../../components/Canvas';

interface Props {
  readonly areas: readonly AreaFact[];
  /** The whole original, and its full size. */
  readonly picture: ImageBitmap | null;
  readonly size: { readonly width: number; readonly height: number };
  readonly onChoose: (areas: readonly AreaFact[], decision: 'open' | 'solid') => void;
}

const FEW = 6;
const MOST_QUESTIONS = 12;
const options = [
  { value: 'open', label: 'open' },
  { value: 'solid', label: 'solid' },
];

/** Every enclosed area with its decision: unsure ones first, sure ones that are alike as one row. */
export function AreaList({ areas, picture, size, onChoose }: Props) {
  const [showsAll, setShowsAll] = useState(false);
  const rows = useMemo(() => rowsOf(areas), [areas]);
  const questions = questionsOf(areas).length;
  const first = Math.max(FEW, Math.min(questions, MOST_QUESTIONS));
  const shown = showsAll ? rows : rows.slice(0, first);
  return (
    <section className="areas" aria-label="Enclosed areas">
      <div className="panel-row">
        <b>Enclosed areas</b>
        <span>
          {areas.length}
          {questions > 0 && (
            <>
              {' '}
              · <span className="warn">{questions === 1 ? '1 question' : `${questions} questions`}</span>
            </>
          )}
        </span>
      </div>
      {questions > 0 && (
        <p className="soft small">
          One answer goes for all that belongs together; press an area in the picture to flip it alone. Alt ↓ goes to
          the next question, Enter flips it.
        </p>
      )}
      <ul>
        {shown.map((row) => (
          <Row
            key={`${row.lead.x},${row.lead.y}`}
            row={row}
            areas={areas}
            picture={picture}
            size={size}
            onChoose={onChoose}
          />
        ))}
      </ul>
      {rows.length > first && (
        <button type="button" className="plain small" onClick={() => setShowsAll(!showsAll)}>
          {showsAll ? 'Show the first few' : `Show all ${rows.length}`}
        </button>
      )}
    </section>
  );
}

function Row({ row, areas, picture, size, onChoose }: Omit<Props, 'areas'> & { row: AreaRow; areas: Props['areas'] }) {
  const { lead } = row;
  const count = row.areas.length;
  const name =
    count === 1
      ? `Area ${lead.number}`
      : lead.asks
        ? `${ASKS[lead.asks]}, ${count} areas`
        : `${count} areas alike, such as ${lead.number}`;
  const what = lead.isPale ? 'paler' : count > 1 ? 'areas' : 'area';
  return (
    <li>
      <AreaPicture area={lead} picture={picture} size={size} />
      {(count === 1 || lead.isUnsure) && (
        <span className={`chip${lead.isUnsure ? ' is-unsure' : ''}`}>{lead.number}</span>
      )}
      {lead.asks && lead.asks !== 'area' ? (
        <span className="areas-words is-question">
          {`${ASKS[lead.asks]}, ${count === 1 ? '1 area' : `${count} areas`}`}
        </span>
      ) : (
        <span className="areas-words">
          {count > 1 ? `${count} ${what}, ` : `${what}, `}
          {lead.areaPx.toLocaleString('en')} px
        </span>
      )}
      {count === 1 && <More areas={areas} one={lead} onChoose={onChoose} />}
      <Segmented
        size="small"
        aria-label={name}
        options={options}
        value={lead.decision}
        onChange={(d) => onChoose(row.areas, d as AreaFact['decision'])}
      />
    </li>
  );
}

/** How much of its surroundings an area's picture shows, as a share of the area. */
const AROUND = 0.5;

function AreaPicture({ area, picture, size }: { area: AreaFact } & Pick<Props, 'picture' | 'size'>) {
  const { x, y, width, height } = area.bounds;
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      if (!picture) return;
      const scale = picture.width / size.width;
      const room = Math.max(width, height) * AROUND;
      const part = { width: width + 2 * room, height: height + 2 * room };
      const to = fitBox(part.width, part.height, w, h, 0);
      context.imageSmoothingQuality = 'high';
      context.drawImage(
        picture,
        (x - room) * scale,
        (y - room) * scale,
        part.width * scale,
        part.height * scale,
        to.x,
        to.y,
        to.width,
        to.height,
      );
    },
    [picture, size.width, x, y, width, height],
  );
  return (
    <span className="areas-picture">
      <Canvas draw={draw} />
    </span>
  );
}

function More({ areas, one, onChoose }: Pick<Props, 'areas' | 'onChoose'> & { one: AreaFact }) {
  const other = one.decision === 'open' ? 'solid' : 'open';
  const verb = other === 'open' ? 'Open' : 'Make solid';
  const [group, alike] = [groupOf(areas, one), alikeTo(areas, one)];
  const items = [
    ...(group.length > 1 ? [{ key: 'group', label: `${verb} this group of ${group.length}` }] : []),
    ...(alike.length > 1 ? [{ key: 'alike', label: `${verb} all ${alike.length} similar areas` }] : []),
  ];
  if (items.length === 0) return null;
  return (
    <Dropdown
      trigger={['click']}
      menu={{ items, onClick: ({ key }) => onChoose(key === 'group' ? group : alike, other) }}
    >
      <button type="button" className="plain small" aria-label={`similar: areas like ${one.number}`}>
        similar
      </button>
    </Dropdown>
  );
}

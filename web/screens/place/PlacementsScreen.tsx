import './place.css';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Select } from 'antd';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { paths } from '../../../contract/paths';
import type { PlacementView } from '../../../contract/views';
import { isStrip, readPlacement } from '../../../core/placements/readPlacement';
import { Failed, Waiting } from '../../components/Waiting';
import { send } from '../../data/http';
import { marksQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { wordsFor } from '../../messages';
import { USUAL_NAME, freeName, lengthWords, placeWords, placementName } from './placementWords';
import { piecesQuery, placementsQuery } from './usePlacement';

const USUAL = { variant: 'auto', at: 'lower-right', inset: '4%', size: '18%', opacity: 1 };

/** Every placement of the brand, and the other ways to put a mark to use. */
export function PlacementsScreen() {
  const { brand } = useBrand();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const list = useQuery({ ...placementsQuery(brand?.id ?? ''), enabled: brand !== null });
  const marks = useQuery({ ...marksQuery(brand?.id ?? ''), enabled: brand !== null });
  const [params] = useSearchParams();
  const [markId, setMark] = useState<string | null>(params.get('mark'));
  const [problem, setProblem] = useState<string | null>(null);
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!brand || !list.data || !marks.data) return <Waiting what="placements" />;
  const chosen = markId ?? marks.data[0]?.id ?? null;
  const begin = async () => {
    const { items } = readPlacement({ items: [{ ...USUAL, mark: chosen }] });
    const taken = list.data.map((p) => p.name);
    const name = freeName(placementName(USUAL_NAME, items[0], marks.data), taken);
    try {
      const made = await send<PlacementView>('POST', paths.brandPlacements(brand.id), { name, rule: { items } });
      void queries.invalidateQueries({ queryKey: ['placements'] });
      navigate(`/placements/${made.id}`);
    } catch (error) {
      setProblem(wordsFor(error));
    }
  };
  const remove = async (id: string) => {
    await send('DELETE', paths.placement(id));
    await queries.invalidateQueries({ queryKey: ['placements'] });
  };
  return (
    <div className="placements">
      <header className="placements-head">
        <h1>Placements</h1>
        <span className="soft">Rules of where marks sit, and the photos, clips, sheets and pages they sit on.</span>
      </header>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
      {marks.data.length === 0 ? (
        <p className="soft">Take in a mark first; then it can be placed.</p>
      ) : (
        <div className="placements-new">
          <label>
            <b>Put</b>
            <Select
              aria-label="Mark to place"
              style={{ width: 230 }}
              value={chosen}
              options={marks.data.map((m) => ({ value: m.id, label: m.name }))}
              onChange={setMark}
            />
          </label>
          <Button type="primary" onClick={() => void begin()}>
            on photos and clips
          </Button>
          <Link className="ant-btn" to={`/placements/sheet?mark=${chosen ?? ''}`}>
            on a print sheet
          </Link>
          <Link className="ant-btn" to={`/placements/document?mark=${chosen ?? ''}`}>
            on a document
          </Link>
          <Link className="ant-btn" to={`/placements/surface?mark=${chosen ?? ''}`}>
            on a cup or a sign
          </Link>
        </div>
      )}
      {list.data.length === 0 ? (
        <p className="soft">No placement yet. Choose a mark, and put it on photos.</p>
      ) : (
        <table className="placements-list">
          <thead>
            <tr>
              <th>Placement</th>
              <th>Rule</th>
              <th>Grounds</th>
              <th>State</th>
              <th>
                <span className="visually-hidden">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.data.map((p) => (
              <tr key={p.id}>
                <td>
                  <Link to={`/placements/${p.id}`}>{p.name}</Link>
                </td>
                <td className="soft">
                  {p.items
                    .map((i) => (isStrip(i) ? `strip, ${i.strip.edge}` : `${placeWords(i.at)}, ${lengthWords(i.size)}`))
                    .join('; ')}
                </td>
                <td>{p.groundCount}</td>
                <td className={p.state === 'failed' ? 'warn' : 'soft'}>{states[p.state]}</td>
                <td>
                  <button
                    type="button"
                    className="plain"
                    aria-label={`Remove ${p.name}`}
                    onClick={() => void remove(p.id)}
                  >
                    ✕
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Pieces brandId={brand.id} />
    </div>
  );
}

const states: Record<PlacementView['run']['state'], string> = {
  idle: 'not written yet',
  waiting: 'waiting',
  making: 'being written',
  ready: 'written',
  failed: 'not all written',
  cancelled: 'cancelled',
};

/** Print sheets that are kept, each working, ready or archived. */
function Pieces({ brandId }: { brandId: string }) {
  const queries = useQueryClient();
  const { data: pieces = [] } = useQuery(piecesQuery(brandId));
  const change = async (work: Promise<unknown>) => {
    await work;
    await queries.invalidateQueries({ queryKey: ['pieces'] });
  };
  if (pieces.length === 0) return null;
  return (
    <table className="placements-list">
      <thead>
        <tr>
          <th>Print sheet</th>
          <th>Paper</th>
          <th>State</th>
          <th>
            <span className="visually-hidden">Remove</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {pieces.map((p) => (
          <tr key={p.id}>
            <td>
              <Link to={`/placements/sheet?piece=${p.id}`}>{p.name}</Link>
            </td>
            <td className="soft">
              {p.order.paper}
              {p.order.mat && `, mat ${p.order.mat.replace(':', ', ')}`}
            </td>
            <td>
              <Select
                size="small"
                variant="borderless"
                aria-label={`State of ${p.name}`}
                value={p.state}
                options={(['working', 'ready', 'archived'] as const).map((value) => ({ value, label: value }))}
                onChange={(state) => void change(send('PATCH', paths.piece(p.id), { state }))}
              />
            </td>
            <td>
              <button
                type="button"
                className="plain"
                aria-label={`Remove ${p.name}`}
                onClick={() => void change(send('DELETE', paths.piece(p.id)))}
              >
                ✕
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

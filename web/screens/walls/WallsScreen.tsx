import './walls.css';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link, useNavigate } from 'react-router';
import { paths } from '../../../contract/paths';
import type { WallView } from '../../../contract/walls';
import { Failed, Waiting } from '../../components/Waiting';
import { send } from '../../data/http';
import { useBrand } from '../../data/useBrand';
import { wordsFor } from '../../messages';
import { freeName } from '../place/placementWords';
import { useNewFiles } from './newFiles';
import { wallsQuery } from './useWall';

/** Every wall of the brand. */
export function WallsScreen() {
  const { brand } = useBrand();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const list = useQuery({ ...wallsQuery(brand?.id ?? ''), enabled: brand !== null });
  const [problem, setProblem] = useState<string | null>(null);
  const bring = useNewFiles();
  const begin = async (files: readonly File[]) => {
    try {
      const taken = (list.data ?? []).map((w) => w.name);
      const name = freeName('Partners', taken);
      const made = await send<WallView>('POST', paths.brandWalls(brand?.id ?? ''), { name });
      void queries.invalidateQueries({ queryKey: ['walls'] });
      bring(made.id, files);
      navigate(`/walls/${made.id}`);
    } catch (error) {
      setProblem(wordsFor(error));
    }
  };
  const drop = useDropzone({ onDrop: (files) => void begin(files), noClick: true, noKeyboard: true });
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!brand || !list.data) return <Waiting what="walls" />;
  const remove = async (id: string) => {
    await send('DELETE', paths.wall(id));
    await queries.invalidateQueries({ queryKey: ['walls'] });
  };
  return (
    <div {...drop.getRootProps({ className: 'walls' })}>
      <input {...drop.getInputProps({ 'aria-label': 'Choose logos for a new wall' })} />
      <header className="walls-head">
        <h1>Walls</h1>
        <span className="soft">Logos side by side: what is wrong with each, and all brought to one optical size.</span>
        <Button type="primary" onClick={() => void begin([])}>
          New wall
        </Button>
      </header>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
      {list.data.length === 0 ? (
        <div className="wall-empty">
          <b>No wall yet</b>
          <p className="soft">
            Drop the logos of a page together, or the saved page itself. Each is looked at, and you get them back level.
          </p>
          <Button onClick={drop.open}>Choose files</Button>
        </div>
      ) : (
        <ul className="walls-list">
          {list.data.map((w) => (
            <li key={w.id}>
              <Link to={`/walls/${w.id}`}>
                <span className="walls-pictures" style={{ background: w.rule.ground }}>
                  {w.pictures.map((p) => (
                    <img key={p} src={p} alt="" />
                  ))}
                </span>
                <b>{w.name}</b>
              </Link>
              <span className="soft small">
                {w.slotCount} {w.slotCount === 1 ? 'logo' : 'logos'}, {w.rule.widthPx} × {w.rule.heightPx} px
                <button
                  type="button"
                  className="plain"
                  aria-label={`Remove ${w.name}`}
                  onClick={() => void remove(w.id)}
                >
                  Remove
                </button>
              </span>
            </li>
          ))}
        </ul>
      )}
      {drop.isDragActive && (
        <div className="drop-veil" aria-hidden="true">
          <span>Drop for a new wall</span>
        </div>
      )}
    </div>
  );
}

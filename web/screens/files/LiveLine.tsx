import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { paths } from '../../../contract/paths';
import { copyText } from '../../data/copyText';
import { send } from '../../data/http';
import { wordsFor } from '../../messages';
import { liveQuery } from '../links/useLinks';

interface Props {
  readonly brandId: string;
  readonly markId: string;
  readonly lineId: string;
  /** What is still to be stored: the line may be new. */
  readonly settle: () => Promise<unknown>;
}

/** The steady address of a size line: the one that it has, or the way to give it one. */
export function LiveLine({ brandId, markId, lineId, settle }: Props) {
  const queries = useQueryClient();
  const { data: all = [] } = useQuery(liveQuery(brandId));
  const [problem, setProblem] = useState<string | null>(null);
  const own = all.find((l) => l.markId === markId && l.lineId === lineId);
  const give = async () => {
    setProblem(null);
    try {
      await settle();
      await send('POST', paths.allLive, { markId, lineId });
    } catch (fault) {
      setProblem(wordsFor(fault));
    }
    await queries.invalidateQueries({ queryKey: ['live'] });
  };
  return (
    <div className="panel-row">
      <span>
        <b>Live address</b>
        <small className="soft">
          {own ? 'Always the newest finished file.' : 'A steady address that always gives the newest file.'}
        </small>
        {problem && <small className="warn">{problem}</small>}
      </span>
      {own ? (
        <span className="live-acts">
          <a href={own.path} target="_blank" rel="noreferrer">
            Open
          </a>
          <button type="button" className="plain" onClick={() => void copyText(`${window.location.origin}${own.path}`)}>
            Copy
          </button>
        </span>
      ) : (
        <button type="button" className="plain" onClick={() => void give()}>
          Give it one
        </button>
      )}
    </div>
  );
}

import './links.css';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Input, Popconfirm } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { paths } from '../../../contract/paths';
import type { LiveView } from '../../../contract/live';
import type { ProofView } from '../../../contract/proofs';
import { Failed, Waiting } from '../../components/Waiting';
import { copyText } from '../../data/copyText';
import { send } from '../../data/http';
import { useBrand } from '../../data/useBrand';
import { wordsFor } from '../../messages';
import { bytesWords } from '../files/bytesWords';
import { liveQuery, proofsQuery } from './useLinks';

const when = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });
const dated = (text: string) => when.format(new Date(text));

/** What others can see of this brand: proof links with what was said, and live addresses with how they are used. */
export function LinksScreen() {
  const { brand } = useBrand();
  const queries = useQueryClient();
  const proofs = useQuery({ ...proofsQuery(brand?.id ?? ''), enabled: brand !== null });
  const live = useQuery({ ...liveQuery(brand?.id ?? ''), enabled: brand !== null });
  const [problem, setProblem] = useState<string | null>(null);
  const failed = proofs.error ?? live.error;
  if (failed) return <Failed error={failed} onRetry={() => void Promise.all([proofs.refetch(), live.refetch()])} />;
  if (!proofs.data || !live.data) return <Waiting what="links" />;
  const act = (work: Promise<unknown>) =>
    work
      .then(
        () => setProblem(null),
        (fault: unknown) => setProblem(wordsFor(fault)),
      )
      .then(() => queries.invalidateQueries({ predicate: ({ queryKey: [k] }) => k === 'proofs' || k === 'live' }));
  return (
    <div className="links">
      <h1>Links</h1>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
      <section aria-label="Proof links">
        <h2>Proof links</h2>
        <p className="soft">Pages for somebody outside, each showing what it was made of until it is closed or ends.</p>
        {proofs.data.length === 0 ? (
          <p className="links-none">None yet. A mark’s Variants, a wall and a delivery each have a button for one.</p>
        ) : (
          <ul className="links-list">
            {proofs.data.map((proof) => (
              <ProofRow key={proof.id} proof={proof} onAct={act} />
            ))}
          </ul>
        )}
      </section>
      <section aria-label="Live addresses">
        <h2>Live addresses</h2>
        <p className="soft">
          Steady addresses of size lines. Each gives the newest finished file; change the master and all uses follow.
        </p>
        {live.data.length === 0 ? (
          <p className="links-none">None yet. On a mark’s Files, choose a size line and give it one.</p>
        ) : (
          <table className="links-table">
            <thead>
              <tr>
                <th>Address</th>
                <th>Mark</th>
                <th>File</th>
                <th>Fetched</th>
                <th>
                  <span className="visually-hidden">Take back</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {live.data.map((l) => (
                <LiveRow key={l.id} live={l} onAct={act} />
              ))}
            </tbody>
          </table>
        )}
      </section>
    </div>
  );
}

type Act = (work: Promise<unknown>) => Promise<unknown>;

const copy = (path: string) => void copyText(`${window.location.origin}${path}`);

const stateWords: Record<ProofView['state'], string> = { open: 'open', closed: 'closed', ended: 'ended' };

function ProofRow({ proof, onAct }: { proof: ProofView; onAct: Act }) {
  const [end, setEnd] = useState(proof.endsOn ?? '');
  const change = (body: object) => void onAct(send('PATCH', paths.ownProof(proof.id), body));
  const isOpen = proof.state === 'open';
  return (
    <li>
      <header>
        {isOpen ? (
          <a href={proof.path} target="_blank" rel="noreferrer">
            {proof.title}
          </a>
        ) : (
          <b>{proof.title}</b>
        )}
        <span className="soft small">
          {proof.kind}, version {proof.version}, {dated(proof.createdAt)}, {stateWords[proof.state]}
          {proof.openedCount > 0
            ? `, opened ${proof.openedCount} ${proof.openedCount === 1 ? 'time' : 'times'}`
            : ', not opened yet'}
        </span>
        {proof.isNewer && <span className="warn small">shows an older version</span>}
      </header>
      <span className="links-acts">
        <label className="small">
          <span className="soft">ends after</span>{' '}
          <Input
            size="small"
            type="date"
            aria-label={`Last day of ${proof.title}`}
            value={end}
            onChange={(e) => setEnd(e.target.value)}
            onBlur={() => end !== (proof.endsOn ?? '') && change({ endsOn: end || null })}
          />
        </label>
        {isOpen && (
          <button type="button" className="plain" onClick={() => copy(proof.path)}>
            Copy
          </button>
        )}
        <button
          type="button"
          className="plain"
          onClick={() => change({ isClosed: proof.state === 'closed' ? 'no' : 'yes' })}
        >
          {proof.state === 'closed' ? 'Open again' : 'Close'}
        </button>
        <Popconfirm
          title="Remove it with all that was said?"
          okText="Remove"
          onConfirm={() => void onAct(send('DELETE', paths.ownProof(proof.id)))}
        >
          <button type="button" className="plain" aria-label={`Remove ${proof.title}`}>
            Remove
          </button>
        </Popconfirm>
      </span>
      {proof.answers.length > 0 && (
        <ul className="links-answers">
          {proof.answers.map((a) => (
            <li key={a.id}>
              <b className={a.kind === 'yes' ? 'is-yes' : ''}>{a.kind === 'yes' ? 'Yes' : 'Note'}</b>
              {a.words && ` ${a.words}`}{' '}
              <span className="soft small">
                {a.who || 'no name'}, {dated(a.madeAt)}
                {a.picture !== null && `, on picture ${a.picture + 1}`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}

function LiveRow({ live, onAct }: { live: LiveView; onAct: Act }) {
  return (
    <tr>
      <td>
        <a href={live.path} target="_blank" rel="noreferrer">
          {live.name}
        </a>{' '}
        <button type="button" className="plain small" onClick={() => copy(live.path)}>
          Copy
        </button>
      </td>
      <td>
        <Link to={`/marks/${live.markId}/files`}>{live.markName}</Link>
      </td>
      <td>
        {live.size === null ? (
          <span className="measuring">being made…</span>
        ) : (
          <span className="soft">
            {bytesWords(live.size)}, {dated(live.madeAt ?? '')}
          </span>
        )}
        {live.problem && <span className="warn"> {live.problem}</span>}
      </td>
      <td className="soft">
        {live.fetchedAt
          ? `${live.fetchedCount} ${live.fetchedCount === 1 ? 'time' : 'times'}, last ${dated(live.fetchedAt)}`
          : 'not yet'}
      </td>
      <td>
        <Popconfirm
          title="Whatever uses this address shows nothing then."
          okText="Take it back"
          onConfirm={() => void onAct(send('DELETE', paths.oneLive(live.id)))}
        >
          <button type="button" className="plain" aria-label={`Take back ${live.name}`}>
            Take back
          </button>
        </Popconfirm>
      </td>
    </tr>
  );
}

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Drawer, Input } from 'antd';
import { useState } from 'react';
import { paths } from '../../../contract/paths';
import type { HistoryEntry, MarkView } from '../../../contract/views';
import { TwoPictures } from '../../components/TwoPictures';
import { Failed, Waiting } from '../../components/Waiting';
import { send } from '../../data/http';
import { historyQuery } from '../../data/queries';
import type { RecipeDraft } from '../../data/useRecipeDraft';

interface Props {
  readonly mark: MarkView;
  readonly draft: RecipeDraft;
  readonly isOpen: boolean;
  readonly onClose: () => void;
}

const time = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });
const titleOf = (entry: HistoryEntry) => entry.name ?? entry.why;

/** Every change of the mark, the newest first, each with a small picture: to go back to, to name, to compare. */
export function HistoryDrawer({ mark, draft, isOpen, onClose }: Props) {
  const history = useQuery({ ...historyQuery(mark.id, mark.revision), enabled: isOpen });
  const [compared, setCompared] = useState<number | null>(null);
  const entries = history.data ?? [];
  const current = entries.find((e) => e.isCurrent);
  const other = entries.find((e) => e.revision === compared);
  const picture = (entry: HistoryEntry) => paths.revisionWhole(mark.id, entry.revision);
  return (
    <Drawer title="History" placement="left" open={isOpen} onClose={onClose} size={420} destroyOnHidden>
      {history.error && <Failed error={history.error} onRetry={() => void history.refetch()} />}
      {history.isLoading && <Waiting what="the history" />}
      {current && other && other !== current && (
        <TwoPictures
          left={{ src: picture(other), words: titleOf(other) }}
          right={{ src: picture(current), words: `${titleOf(current)} (now)` }}
        />
      )}
      <ol className="history">
        {entries.map((entry) => (
          <Entry
            key={entry.revision}
            mark={mark}
            entry={entry}
            isCompared={entry.revision === compared}
            onGo={() => draft.goTo(entry.revision)}
            onCompare={() => setCompared(entry.revision === compared ? null : entry.revision)}
          />
        ))}
      </ol>
    </Drawer>
  );
}

interface EntryProps {
  readonly mark: MarkView;
  readonly entry: HistoryEntry;
  readonly isCompared: boolean;
  readonly onGo: () => void;
  readonly onCompare: () => void;
}

function Entry({ mark, entry, isCompared, onGo, onCompare }: EntryProps) {
  const [name, setName] = useState<string | null>(null);
  const queries = useQueryClient();
  const keep = async () => {
    if (name === null) return;
    const body = { name: name.trim() || null };
    setName(null);
    const listed = await send<HistoryEntry[]>('PATCH', paths.markRevision(mark.id, entry.revision), body);
    queries.setQueryData(historyQuery(mark.id, mark.revision).queryKey, listed);
  };
  return (
    <li className={entry.isCurrent ? 'is-current' : ''} aria-current={entry.isCurrent ? 'true' : undefined}>
      <span className="history-picture">
        <img src={paths.revisionThumbnail(mark.id, entry.revision)} alt="" loading="lazy" />
      </span>
      <span className="history-words">
        {name === null ? (
          <b>{titleOf(entry)}</b>
        ) : (
          <Input
            size="small"
            autoFocus
            aria-label="Name of this revision"
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
            onPressEnter={() => void keep()}
            onBlur={() => void keep()}
          />
        )}
        <span className="soft small">
          {entry.name && `${entry.why} · `}
          {time.format(new Date(entry.madeAt))}
          {entry.madeBy && ` by ${entry.madeBy}`}
        </span>
        <span className="history-actions">
          {entry.isCurrent ? (
            <span className="small">shown now</span>
          ) : (
            <>
              <button type="button" className="plain small" onClick={onGo}>
                Go back to this
              </button>
              <button type="button" className="plain small" aria-pressed={isCompared} onClick={onCompare}>
                {isCompared ? 'Put away' : 'Compare'}
              </button>
            </>
          )}
          <button type="button" className="plain small" onClick={() => setName(entry.name ?? '')}>
            {entry.name ? 'Rename' : 'Name'}
          </button>
        </span>
      </span>
    </li>
  );
}

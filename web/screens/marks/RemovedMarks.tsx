import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Popconfirm } from 'antd';
import { paths } from '../../../contract/paths';
import { type MarkCard, type MarkView, RETURN_DAYS } from '../../../contract/views';
import { send } from '../../data/http';
import { wordsFor } from '../../messages';

const DAY_MS = 86_400_000;

/** How long a removed mark can still be brought back. */
export function returnWords(removedAt: string, now: number): string {
  const days = Math.ceil(RETURN_DAYS - (now - Date.parse(removedAt)) / DAY_MS);
  if (days <= 1) return 'can be brought back until tomorrow';
  return `can be brought back for ${days} days`;
}

/** Marks that were removed; each can be brought back, or removed at once and for good. */
export function RemovedMarks({ marks }: { marks: readonly MarkCard[] }) {
  const queries = useQueryClient();
  const onSuccess = () => {
    void queries.invalidateQueries({ queryKey: ['marks'] });
    void queries.invalidateQueries({ queryKey: ['brands'] });
  };
  const bringBack = useMutation({
    mutationFn: (id: string) => send<MarkView>('POST', paths.markReturn(id)),
    onSuccess,
  });
  const erase = useMutation({
    mutationFn: (id: string) => send<void>('DELETE', `${paths.mark(id)}?forGood=1`),
    onSuccess,
  });
  const problem = bringBack.error ?? erase.error;
  return (
    <section className="removed-marks" aria-label="Removed marks">
      {problem && (
        <p className="finding" role="alert">
          {wordsFor(problem)}
        </p>
      )}
      <ul>
        {marks.map((mark) => (
          <li key={mark.id}>
            <span>
              <b>{mark.name}</b>{' '}
              <span className="soft small">
                {mark.kind} · {mark.originalName} · {returnWords(mark.removedAt ?? '', Date.now())}
              </span>
            </span>
            <button type="button" className="plain" onClick={() => bringBack.mutate(mark.id)}>
              Bring back
            </button>
            <Popconfirm
              title={`Remove ${mark.name} for good?`}
              description="The original, its history and its files go at once. There is no way back."
              okText="Remove for good"
              cancelText="Keep"
              onConfirm={() => erase.mutate(mark.id)}
            >
              <button type="button" className="plain">
                Remove for good
              </button>
            </Popconfirm>
          </li>
        ))}
      </ul>
    </section>
  );
}

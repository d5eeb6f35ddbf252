import { Button } from 'antd';
import { wordsFor } from '../messages';

export const Waiting = ({ what }: { what: string }) => (
  <div className="waiting" role="status">
    Loading {what}…
  </div>
);

/** What happened, and the one thing to do about it. */
export function Failed({ error, onRetry }: { error: unknown; onRetry?: () => void }) {
  return (
    <div className="failed" role="alert">
      <b>That did not work.</b>
      <p>{wordsFor(error)}</p>
      {onRetry && <Button onClick={onRetry}>Try again</Button>}
    </div>
  );
}

import { Button } from 'antd';
import { useState } from 'react';
import { useLocation, useNavigate, useRouteError } from 'react-router';
import { copyText } from '../data/copyText';

/** What a person can send us about a fault: where, what, and from which place in the code. */
export function reportOf(error: unknown, path: string): string {
  const { message, stack } = error instanceof Error ? error : { message: String(error), stack: '' };
  return [`Tassel, ${path}`, message, stack ?? ''].join('\n');
}

/** Takes the place of a screen that broke; everything round it stays. */
export function Broken() {
  const error = useRouteError();
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const [isCopied, setCopied] = useState(false);
  const report = reportOf(error, pathname);
  const copy = () => void copyText(report).then(() => setCopied(true));
  return (
    <div className="failed" role="alert">
      <b>This screen stopped working.</b>
      <p>
        Everything that was saved is safe, and the rest of Tassel goes on. Open the screen again, or go back. If it
        happens again, copy the report and send it to whoever looks after Tassel for you.
      </p>
      <pre className="failed-report">{report.split('\n').slice(0, 2).join('\n')}</pre>
      <p className="failed-ways">
        <Button type="primary" onClick={() => void navigate(0)}>
          Open it again
        </Button>
        <Button onClick={() => void navigate(-1)}>Go back</Button>
        <Button onClick={copy}>{isCopied ? 'Report copied' : 'Copy the report'}</Button>
      </p>
    </div>
  );
}

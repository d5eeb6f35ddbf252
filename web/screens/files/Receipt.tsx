import { useState } from 'react';
import { paths } from '../../../contract/paths';
import type { DeliveredFileView } from '../../../contract/views';
import { bytesWords } from './bytesWords';

const round = (v: number) => Math.round(v * 100) / 100;

interface Props {
  /** Of the delivery. */
  readonly id: string;
  readonly files: readonly DeliveredFileView[];
}

/** What was read back from every file after writing it; each can be had alone. */
export function Receipt({ id, files }: Props) {
  return (
    <details className="receipt" open>
      <summary>Receipt: all {files.length} read back after writing, nothing of the original’s metadata</summary>
      <ul aria-label="Receipt">
        {files.map((file) => (
          <li key={file.name}>
            <a href={paths.deliveryFile(id, file.position)} download={file.name.split('/').pop()} title={file.name}>
              {file.name}
            </a>
            <span className="soft small">{wordsOf(file).join(' · ')}</span>
            {file.receipt.format === 'png' && <CopyPicture url={paths.deliveryFile(id, file.position)} />}
          </li>
        ))}
      </ul>
    </details>
  );
}

function wordsOf({ receipt: r }: DeliveredFileView): string[] {
  const e = r.extents;
  return [
    `${round(r.width)} × ${round(r.height)} ${r.unit}`,
    bytesWords(r.bytes),
    ...(r.ppi === null ? [] : [`${Math.round(r.ppi)} ppi`]),
    r.hasAlpha ? (r.alphaRange ? `alpha ${r.alphaRange.join(' to ')}` : 'transparent') : 'no transparency',
    ...(r.cornersClear && r.hasAlpha ? ['corners clear'] : []),
    ...(e ? [`visible ${round(e.width)} × ${round(e.height)} at ${round(e.x)}, ${round(e.y)}`] : []),
    ...(r.paths === null
      ? [r.profile ?? (r.isSrgb ? 'sRGB' : 'no colour space')]
      : [`${r.paths} ${r.paths === 1 ? 'path' : 'paths'}, ${r.pictures > 0 ? 'a picture embedded' : 'no picture'}`]),
    ...(r.enlargement > 1.01 ? [`enlarged ${r.enlargement.toFixed(1)} times`] : []),
  ];
}

/** A picture for the clipboard, as programs paste it. */
function CopyPicture({ url }: { url: string }) {
  const [said, setSaid] = useState<string | null>(null);
  // Browsers hand the clipboard to pages from this machine or by TLS alone.
  if (typeof ClipboardItem === 'undefined' || !navigator.clipboard) return null;
  const copy = async () => {
    const bytes = fetch(url).then((answer) => answer.blob());
    await navigator.clipboard.write([new ClipboardItem({ 'image/png': bytes })]);
  };
  return (
    <button
      type="button"
      className="plain small"
      onClick={() =>
        void copy().then(
          () => setSaid('Copied'),
          () => setSaid('The browser does not let it be copied'),
        )
      }
    >
      {said ?? 'Copy'}
    </button>
  );
}

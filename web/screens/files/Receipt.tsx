import type { DeliveredFileView } from '../../../contract/views';

const kb = (bytes: number) =>
  bytes < 1024 * 100 ? `${(bytes / 1024).toFixed(1)} kB` : `${Math.round(bytes / 1024)} kB`;

/** What was read back from every file after writing it. */
export function Receipt({ files }: { files: readonly DeliveredFileView[] }) {
  return (
    <section className="receipt" aria-label="Receipt">
      <h3>Receipt</h3>
      <p className="soft small">
        Read back after writing: every pixel as meant,{' '}
        {files.every((f) => f.receipt.hasAlpha) ? 'true transparency' : 'no transparency'},{' '}
        {files.every((f) => f.receipt.isSrgb) ? 'sRGB' : 'no colour space'}, not interlaced, nothing of the original’s
        metadata.
      </p>
      <ul>
        {files.map((f) => (
          <li key={f.name}>
            <b title={f.name}>{f.name}</b>
            <span className="soft small">
              {f.receipt.width} × {f.receipt.height} px · {kb(f.receipt.bytes)} ·{' '}
              {Math.round(f.receipt.clearShare * 100)} % clear
              {f.receipt.enlargement > 1.01 && ` · enlarged ${f.receipt.enlargement.toFixed(1)} times`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

import type { DeliveredFileView } from '../../../contract/views';

const kb = (bytes: number) =>
  bytes < 1024 * 100 ? `${(bytes / 1024).toFixed(1)} kB` : `${Math.round(bytes / 1024)} kB`;
const round = (v: number) => Math.round(v * 100) / 100;

/** What was read back from every file after writing it. */
export function Receipt({ files }: { files: readonly DeliveredFileView[] }) {
  const pictures = files.filter((f) => f.receipt.paths === null);
  return (
    <section className="receipt" aria-label="Receipt">
      <h3>Receipt</h3>
      <p className="soft small">
        Read back after writing, every pixel and path as meant
        {pictures.length > 0 &&
          `; ${pictures.every((f) => f.receipt.hasAlpha) ? 'true transparency' : 'no transparency'}`}
        {pictures.length > 0 &&
          `, ${pictures.every((f) => f.receipt.isSrgb) ? 'sRGB' : 'no colour space'}, not interlaced`}
        . Nothing of the original’s metadata.
      </p>
      <ul>
        {files.map(({ name, receipt: r }) => (
          <li key={name}>
            <b title={name}>{name}</b>
            <span className="soft small">
              {round(r.width)} × {round(r.height)} {r.unit} · {kb(r.bytes)}
              {r.ppi !== null && ` · ${Math.round(r.ppi)} ppi`}
              {r.clearShare !== null && ` · ${Math.round(r.clearShare * 100)} % clear`}
              {r.paths !== null && ` · ${r.paths} ${r.paths === 1 ? 'path' : 'paths'}, no picture`}
              {r.enlargement > 1.01 && ` · enlarged ${r.enlargement.toFixed(1)} times`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

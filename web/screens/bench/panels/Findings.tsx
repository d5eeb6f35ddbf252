import type { Finding, Fix } from '../../../../core/findings/finding';
import { whyOfFinding } from '../../../../core/why/why';
import { Why } from '../../../components/Why';

interface Props {
  readonly findings: readonly Finding[];
  /** They are those of a smaller picture, until the whole one is measured. */
  readonly isOld?: boolean;
  readonly onShow: (finding: Finding) => void;
  readonly onFix: (finding: Finding, fix: Fix) => void;
}

/** The findings of a stage: what was measured, where, and the way to mend it. */
export function Findings({ findings, isOld = false, onShow, onFix }: Props) {
  return (
    <section className={`findings${isOld ? ' is-old' : ''}`} aria-label="Findings" aria-busy={isOld}>
      {findings.map((f) => (
        <div key={f.id} className={f.weight === 'note' ? 'finding note' : 'finding'}>
          <b>
            {f.title[0].toUpperCase()}
            {f.title.slice(1)}.
          </b>{' '}
          {f.detail}
          <span className="finding-ways">
            {f.places.length > 0 && (
              <button
                type="button"
                className="plain small"
                aria-label={`Show me: ${f.title}`}
                onClick={() => onShow(f)}
              >
                Show me
              </button>
            )}
            {f.fixes?.map((fix) => (
              <button key={fix.label} type="button" className="plain small" onClick={() => onFix(f, fix)}>
                {fix.label}
              </button>
            ))}
            <Why title={f.title} why={whyOfFinding[f.id]} />
          </span>
        </div>
      ))}
    </section>
  );
}

import type { Finding } from '../../../../core/findings/finding';

/** The findings of a stage: what was measured, and what to do about it. */
export function Findings({ findings }: { findings: readonly Finding[] }) {
  return (
    <section className="findings" aria-label="Findings">
      {findings.map((f) => (
        <p key={f.id} className={f.weight === 'note' ? 'finding note' : 'finding'}><b>{f.title[0].toUpperCase()}{f.title.slice(1)}.</b> {f.detail}</p>
      ))}
    </section>
  );
}

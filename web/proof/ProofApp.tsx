import { useEffect, useState } from 'react';
import type { ProofAnswer, ProofPage } from '../../contract/proofs';
import { AnswerForm } from './AnswerForm';
import { PictureCard } from './PictureCard';
import { type GroundName, type Pin, type Said, useProof } from './useProof';

const when = new Intl.DateTimeFormat('en', { dateStyle: 'long' });

/** The page of a proof link, for somebody outside: made for looking, with one answer or many notes. */
export function ProofApp({ linkKey }: { linkKey: string }) {
  const { page, problem, isSending, answer } = useProof(linkKey);
  if (!page)
    return (
      <main className="proof-none" role={problem ? 'alert' : 'status'}>
        <h1>{problem ? 'Nothing to see here' : 'One moment'}</h1>
        <p>{problem ?? 'The pictures are on their way.'}</p>
        {problem && <p className="soft">Ask whoever sent you this link for another one.</p>}
      </main>
    );
  return <Page page={page} problem={problem} isSending={isSending} onAnswer={answer} />;
}

interface PageProps {
  readonly page: ProofPage;
  readonly problem: string | null;
  readonly isSending: boolean;
  readonly onAnswer: (said: Said) => Promise<boolean>;
}

const GROUNDS: readonly GroundName[] = ['own', 'light', 'dark'];
const GROUND_WORDS: Record<GroundName, string> = { own: 'As intended', light: 'Light', dark: 'Dark' };

function Page({ page, problem, isSending, onAnswer }: PageProps) {
  const [ground, setGround] = useState<GroundName>('own');
  const [isActual, setActual] = useState(false);
  const [pin, setPin] = useState<Pin | null>(null);
  const [form, setForm] = useState<'yes' | 'note' | null>(null);
  const [hasSaid, setSaid] = useState<'yes' | 'note' | null>(null);
  useEffect(() => {
    document.title = `${page.title}, ${page.brand}`;
    document.documentElement.dataset.theme = ground === 'dark' ? 'dark' : 'light';
  }, [page.title, page.brand, ground]);
  const notes = page.answers.filter((a) => a.kind === 'note');
  const yes = page.answers.filter((a) => a.kind === 'yes');
  const say = async (said: Said) => {
    if (!(await onAnswer(said))) return;
    setSaid(said.kind);
    setForm(null);
    setPin(null);
  };
  return (
    <div className="proof">
      <header className="proof-head">
        <span>
          <h1>{page.title}</h1>
          <span className="soft">{page.brand}</span>
        </span>
        <span className="proof-tools">
          <span role="group" aria-label="Background">
            {GROUNDS.map((g) => (
              <button key={g} type="button" aria-pressed={ground === g} onClick={() => setGround(g)}>
                {GROUND_WORDS[g]}
              </button>
            ))}
          </span>
          <span role="group" aria-label="Size">
            <button type="button" aria-pressed={!isActual} onClick={() => setActual(false)}>
              Fit
            </button>
            <button type="button" aria-pressed={isActual} onClick={() => setActual(true)}>
              Actual size
            </button>
          </span>
        </span>
      </header>
      <p className="proof-state soft">
        Version {page.version}, made on {when.format(new Date(page.madeAt))}
        {page.endsOn && `. This page can be seen until ${when.format(new Date(`${page.endsOn}T12:00:00`))}`}.
        {page.isNewer && <b className="warn"> There is a newer version than this one.</b>}
      </p>
      <div className={`proof-pictures is-${page.kind}${isActual ? ' is-actual' : ''}`}>
        {page.pictures.map((own, k) => (
          <PictureCard
            key={k}
            picture={own}
            ground={ground}
            isActual={isActual}
            notes={notes.map((n, number) => ({ ...n, number: number + 1 })).filter((n) => n.picture === k)}
            pin={pin?.picture === k ? pin : null}
            onPin={(x, y) => {
              setPin({ picture: k, x, y });
              setForm('note');
              setSaid(null);
            }}
          />
        ))}
      </div>
      {(notes.length > 0 || yes.length > 0) && <Answers notes={notes} yes={yes} page={page} />}
      <footer className="proof-foot">
        {problem && (
          <p className="warn" role="alert">
            {problem}
          </p>
        )}
        {form ? (
          <AnswerForm
            kind={form}
            pin={pin}
            title={pin ? (page.pictures[pin.picture]?.title ?? '') : ''}
            isSending={isSending}
            onCancel={() => {
              setForm(null);
              setPin(null);
            }}
            onSay={(said) => void say(said)}
          />
        ) : (
          <>
            <span className="soft" role="status">
              {hasSaid === 'yes' && 'You said yes. Thank you.'}
              {hasSaid === 'note' && 'Your note was passed on.'}
              {!hasSaid && 'Press on a picture to pin a note to that place.'}
            </span>
            <span className="proof-buttons">
              <button type="button" onClick={() => setForm('note')}>
                Write a note
              </button>
              <button type="button" className="is-main" onClick={() => setForm('yes')}>
                Say yes
              </button>
            </span>
          </>
        )}
      </footer>
    </div>
  );
}

interface AnswersProps {
  readonly notes: readonly ProofAnswer[];
  readonly yes: readonly ProofAnswer[];
  readonly page: ProofPage;
}

function Answers({ notes, yes, page }: AnswersProps) {
  return (
    <section className="proof-answers" aria-label="Answers">
      {yes.length > 0 && (
        <p>
          <b>Said yes:</b> {yes.map((a) => `${a.who || 'somebody'}, ${when.format(new Date(a.madeAt))}`).join('; ')}
        </p>
      )}
      <ol>
        {notes.map((n) => (
          <li key={n.id}>
            {n.words}{' '}
            <span className="soft">
              {n.who || 'no name'}
              {n.picture !== null && `, on ${page.pictures[n.picture]?.title ?? 'a picture'}`}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

import { type FormEvent, useState } from 'react';
import type { Pin, Said } from './useProof';

interface Props {
  readonly kind: 'yes' | 'note';
  readonly pin: Pin | null;
  /** Of the picture that the note is pinned to. */
  readonly title: string;
  readonly isSending: boolean;
  readonly onCancel: () => void;
  readonly onSay: (said: Said) => void;
}

/** A yes or a note, with a name that nobody has to give. */
export function AnswerForm({ kind, pin, title, isSending, onCancel, onSay }: Props) {
  const [who, setWho] = useState('');
  const [words, setWords] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onSay({ kind, who, words, picture: pin?.picture ?? null, x: pin?.x ?? null, y: pin?.y ?? null });
  };
  return (
    <form className="proof-form" onSubmit={submit}>
      <b>{kind === 'yes' ? 'Yes, this is right' : pin ? `A note on ${title}` : 'A note'}</b>
      <label>
        <span>{kind === 'yes' ? 'Anything to add' : 'Note'}</span>
        <textarea
          autoFocus={kind === 'note'}
          rows={3}
          maxLength={2000}
          value={words}
          required={kind === 'note'}
          onChange={(e) => setWords(e.target.value)}
        />
      </label>
      <label>
        <span>Your name</span>
        <input value={who} maxLength={80} autoComplete="name" onChange={(e) => setWho(e.target.value)} />
      </label>
      <span className="proof-buttons">
        <button type="button" onClick={onCancel}>
          Not now
        </button>
        <button type="submit" className="is-main" disabled={isSending}>
          {kind === 'yes' ? 'Say yes' : 'Pass it on'}
        </button>
      </span>
    </form>
  );
}

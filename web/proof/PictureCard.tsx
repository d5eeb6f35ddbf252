import type { MouseEvent } from 'react';
import type { ProofAnswer, ProofPicture } from '../../contract/proofs';
import type { GroundName, Pin } from './useProof';

interface Props {
  readonly picture: ProofPicture;
  readonly ground: GroundName;
  readonly isActual: boolean;
  readonly notes: readonly (ProofAnswer & { readonly number: number })[];
  readonly pin: Pin | null;
  readonly onPin: (x: number, y: number) => void;
}

const share = (v: number | null) => `${(v ?? 0.5) * 100}%`;

/** One picture on its ground, with the notes that are pinned to it. */
export function PictureCard({ picture, ground, isActual, notes, pin, onPin }: Props) {
  const press = (event: MouseEvent<HTMLButtonElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    // A press by keyboard has no place: then the note is pinned to the middle.
    const isKey = event.detail === 0;
    const at = (v: number, from: number, length: number) =>
      isKey || length === 0 ? 0.5 : Math.min(1, Math.max(0, (v - from) / length));
    onPin(at(event.clientX, box.left, box.width), at(event.clientY, box.top, box.height));
  };
  return (
    <figure className={`proof-picture${picture.isOpaque ? ' is-opaque' : ''}`}>
      <div
        className={`proof-ground is-${ground}`}
        style={ground === 'own' ? { background: picture.ground } : undefined}
        tabIndex={isActual ? 0 : undefined}
      >
        {picture.picture ? (
          <button type="button" className="proof-press" aria-label={`Pin a note on ${picture.title}`} onClick={press}>
            <img
              src={picture.picture}
              alt={picture.title}
              width={Math.round(picture.width)}
              height={Math.round(picture.height)}
              style={isActual ? { width: Math.round(picture.width) } : undefined}
            />
            {notes.map((n) => (
              <span key={n.id} className="proof-pin" style={{ left: share(n.x), top: share(n.y) }}>
                {n.number}
              </span>
            ))}
            {pin && <span className="proof-pin is-new" style={{ left: share(pin.x), top: share(pin.y) }} />}
          </button>
        ) : (
          <span className="soft">This file is not shown in a browser.</span>
        )}
      </div>
      <figcaption>
        <b>{picture.title}</b> <span className="soft">{picture.words}</span>
      </figcaption>
    </figure>
  );
}

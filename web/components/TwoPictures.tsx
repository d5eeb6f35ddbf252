import { useState } from 'react';

interface Side {
  readonly src: string;
  readonly words: string;
}

/** Two pictures of the same mark on one place; a bar wipes from the one to the other. */
export function TwoPictures({ left, right }: { left: Side; right: Side }) {
  const [at, setAt] = useState(50);
  return (
    <figure className="two-pictures">
      <div className="checkered">
        <img src={left.src} alt={left.words} />
        <img src={right.src} alt={right.words} style={{ clipPath: `inset(0 0 0 ${at}%)` }} />
        <i aria-hidden="true" style={{ left: `${at}%` }} />
      </div>
      <input
        type="range"
        min={0}
        max={100}
        value={at}
        aria-label="Wipe between the two"
        onChange={(e) => setAt(Number(e.target.value))}
      />
      <figcaption className="small">
        <span>{left.words}</span>
        <span>{right.words}</span>
      </figcaption>
    </figure>
  );
}

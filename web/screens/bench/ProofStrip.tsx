import { useCallback } from 'react';
import { Canvas, fitBox } from '../../components/Canvas';
import { contrastWords } from '../../components/contrastWords';
import { coverWith, usePhotos } from '../../components/usePhoto';
import type { ProofGround } from '../../data/proofGrounds';
import { type Shown, masterOf } from '../../data/useEngine';

interface Props {
  readonly grounds: readonly ProofGround[];
  readonly shown: Shown | null;
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}

/** The result live on every ground. A click puts that ground under the bench. */
export function ProofStrip({ grounds, shown, chosen, onChoose }: Props) {
  const photos = usePhotos(grounds.flatMap((g) => (g.url ? [g.url] : [])));
  return (
    <div className="proof" role="group" aria-label="Proofs on grounds">
      {grounds.map((g) => (
        <Proof
          key={g.id}
          ground={g}
          shown={shown}
          photo={g.url ? (photos.get(g.url) ?? null) : null}
          isChosen={g.id === chosen}
          onChoose={() => onChoose(g.id)}
        />
      ))}
    </div>
  );
}

interface ProofProps {
  readonly ground: ProofGround;
  readonly shown: Shown | null;
  readonly photo: ImageBitmap | null;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
}

function Proof({ ground, shown, photo, isChosen, onChoose }: ProofProps) {
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      context.imageSmoothingQuality = 'high';
      if (ground.hex) {
        context.fillStyle = ground.hex;
        context.fillRect(0, 0, w, h);
      } else if (photo) coverWith(context, photo, 0, 0, w, h);
      const { extents: e, bitmap } = masterOf(shown) ?? { extents: null, bitmap: null };
      if (!e || !bitmap) return;
      const to = fitBox(e.width, e.height, w, h - 14, 10);
      context.drawImage(bitmap, to.x, to.y, to.width, to.height);
    },
    [ground.hex, photo, shown],
  );
  const { text, isWeak } = contrastWords(shown?.contrast[ground.id], ground.hex === null);
  return (
    <button type="button" className="proof-one" aria-pressed={isChosen} onClick={onChoose}>
      <Canvas draw={draw} />
      {!shown && <span className="proof-wait measuring" role="status" aria-label="Being measured" />}
      <span className={isWeak ? 'proof-name is-weak' : 'proof-name'}>
        {ground.name}
        {text && ` · ${text}`}
      </span>
    </button>
  );
}

import type { Variant } from '../../../core/recipe/recipe';
import type { VariantDone } from '../../../worker/protocol';
import { contrastWords } from '../../components/contrastWords';
import type { ProofGround } from '../../data/proofGrounds';
import { VariantPicture } from './VariantPicture';
import { bestVariant } from './bestOn';

interface Props {
  readonly variants: readonly Variant[];
  readonly shown: ReadonlyMap<string, VariantDone>;
  readonly grounds: readonly ProofGround[];
  readonly photoOf: (ground: ProofGround) => ImageBitmap | null;
  readonly open: string;
  readonly onOpen: (variant: string, ground: string) => void;
  /** Hands the table out as a file to be shown. */
  readonly onBoard: (format: 'png' | 'pdf') => void;
}

/** Every variant on every ground with its number, and which one to use where. */
export function GroundTable({ variants, shown, grounds, photoOf, open, onOpen, onBoard }: Props) {
  const best = new Map(grounds.map((g) => [g.id, bestVariant(variants, shown, g)]));
  const nameOf = (id: string | null | undefined) => variants.find((v) => v.id === id)?.name ?? null;
  return (
    <div className="ground-table">
      <div className="ground-board">
        <span className="soft small">To show to somebody:</span>
        <button type="button" className="pill" onClick={() => onBoard('png')}>
          Board as PNG
        </button>
        <button type="button" className="pill" onClick={() => onBoard('pdf')}>
          Board as PDF
        </button>
      </div>
      <table>
        <caption className="soft small">
          On colours the contrast ratio; on photos how much of the outline stands out at 3 : 1 or more.
        </caption>
        <thead>
          <tr>
            <th scope="col">
              <span className="soft small">Variant</span>
            </th>
            {grounds.map((g) => (
              <th key={g.id} scope="col">
                {g.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {variants.map((variant) => {
            const done = shown.get(variant.id) ?? null;
            return (
              <tr key={variant.id} className={variant.id === open ? 'is-open' : ''}>
                <th scope="row">{variant.name}</th>
                {grounds.map((g) => {
                  const { text, isWeak } = contrastWords(done?.contrast[g.id], g.hex === null);
                  const isBest = best.get(g.id) === variant.id;
                  const words = `${text || 'being measured'}${isBest ? ', reads best' : ''}`;
                  return (
                    <td key={g.id} className={isBest ? 'is-best' : ''}>
                      <button
                        type="button"
                        aria-label={`${variant.name} on ${g.name}: ${words}`}
                        onClick={() => onOpen(variant.id, g.id)}
                      >
                        <VariantPicture done={done} ground={g} photo={photoOf(g)} name={variant.name} isSmall />
                        <span className={isWeak ? 'warn' : ''}>{text}</span>
                      </button>
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">Use here</th>
            {grounds.map((g) => (
              <td key={g.id} className={nameOf(best.get(g.id)) ? '' : 'warn'}>
                {nameOf(best.get(g.id)) ?? (shown.size > 0 ? 'none reads well' : '')}
              </td>
            ))}
          </tr>
        </tfoot>
      </table>
    </div>
  );
}

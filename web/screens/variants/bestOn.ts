import { bestStanding } from '../../../core/contrast/standing';
import type { Variant } from '../../../core/recipe/recipe';
import type { VariantDone } from '../../../worker/protocol';
import { contrastWords } from '../../components/contrastWords';
import type { ProofGround } from '../../data/proofGrounds';

/** To begin with, the ground on which a variant reads best of the plain ones. */
export function bestGround(done: VariantDone | null, grounds: readonly ProofGround[]): ProofGround {
  const plain = grounds.filter((g) => g.hex !== null);
  if (!done || plain.length === 0) return grounds[0];
  const ratio = (g: ProofGround) => done.contrast[g.id]?.ratio ?? 0;
  return plain.reduce((a, b) => (ratio(b) > ratio(a) ? b : a));
}

/** The variant that reads best on a ground; null before that is known, and where none can be seen. */
export function bestVariant(
  variants: readonly Variant[],
  shown: ReadonlyMap<string, VariantDone>,
  ground: ProofGround,
): string | null {
  const known = variants.flatMap((v) => {
    const standing = shown.get(v.id)?.contrast[ground.id];
    return standing ? [{ id: v.id, standing }] : [];
  });
  const best = known[bestStanding(known.map((k) => k.standing))];
  return best && !contrastWords(best.standing, ground.hex === null).isWeak ? best.id : null;
}

/** Whether a variant can be seen well on none of the grounds. */
export const isWeakEverywhere = (done: VariantDone | null, grounds: readonly ProofGround[]): boolean =>
  done !== null &&
  grounds.length > 0 &&
  grounds.every((g) => contrastWords(done.contrast[g.id], g.hex === null).isWeak);

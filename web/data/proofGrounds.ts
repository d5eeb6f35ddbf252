import type { GroundView } from '../../contract/views';
import type { GroundSource } from '../../worker/protocol';

/** One of the six grounds of the proof strip. */
export interface ProofGround extends GroundSource {
  readonly name: string;
}

/** So many proofs have room under the bench. */
const MOST_PROOFS = 6;

/**
 * White, mid grey, black and the brand's lightest colour that is none of them, and the grounds that were chosen as
 * proofs, four at most: for the third and fourth the brand's colour and the grey make way.
 */
export function proofGrounds(
  palette: readonly { name: string; hex: string }[],
  grounds: readonly GroundView[],
): ProofGround[] {
  const plain = (id: string, name: string, hex: string): ProofGround => ({ id, name, hex, url: null });
  const [white, black] = [plain('white', 'White', '#ffffff'), plain('black', 'Black', '#000000')];
  const own = grounds
    .filter((g) => g.isProof)
    .map((g): ProofGround => ({ id: g.id, name: g.name, hex: g.hex, url: g.picture }))
    .slice(0, MOST_PROOFS - 2);
  const room = MOST_PROOFS - 2 - own.length;
  const brand = brandGround(palette);
  return [
    white,
    ...(room > 0 ? [plain('grey', 'Mid grey', '#808080')] : []),
    black,
    ...(brand && room > 1 ? [plain('brand', brand.name, brand.hex)] : []),
    ...own,
  ];
}

// A light colour of the brand shows most of what a mark meets there; black and white stand in the strip already.
function brandGround(palette: readonly { name: string; hex: string }[]) {
  const weight = (hex: string) => [1, 3, 5].reduce((sum, k) => sum + parseInt(hex.slice(k, k + 2), 16), 0);
  const own = palette.filter((c) => !['#ffffff', '#000000', '#808080'].includes(c.hex.toLowerCase()));
  return own.reduce<(typeof own)[number] | null>((a, b) => (a === null || weight(b.hex) > weight(a.hex) ? b : a), null);
}

import type { GroundView } from '../../contract/views';
import type { GroundSource } from '../../worker/protocol';

/** One of the six grounds of the proof strip. */
export interface ProofGround extends GroundSource {
  readonly name: string;
}

/** So many proofs have room under the bench. */
const MOST_PROOFS = 6;

/**
 * White, mid grey and black, the brand's lightest colour that is none of them, and of the grounds that were chosen as
 * proofs as many as have room: a light and a dark photo among them where there are such.
 */
export function proofGrounds(
  palette: readonly { name: string; hex: string }[],
  grounds: readonly GroundView[],
): ProofGround[] {
  const plain = (id: string, name: string, hex: string): ProofGround => ({ id, name, hex, url: null });
  const own = grounds
    .filter((g) => g.isProof)
    .map((g): ProofGround => ({ id: g.id, name: g.name, hex: g.hex, url: g.picture }));
  const tones = new Map(grounds.map((g) => [g.id, g.tone]));
  const brand = brandGround(palette);
  const usual = [
    plain('white', 'White', '#ffffff'),
    plain('grey', 'Mid grey', '#808080'),
    plain('black', 'Black', '#000000'),
    ...(brand ? [plain('brand', brand.name, brand.hex)] : []),
  ];
  const room = MOST_PROOFS - usual.length;
  if (own.length > room) {
    const of = (tone: GroundView['tone']) => own.filter((g) => tones.get(g.id) === tone).slice(0, 1);
    const first = [...of('light'), ...of('dark'), ...own].filter((g, k, all) => all.indexOf(g) === k).slice(0, room);
    return [...usual, ...first];
  }
  return [...usual, ...own];
}

// A light colour of the brand shows most of what a mark meets there; black and white stand in the strip already.
function brandGround(palette: readonly { name: string; hex: string }[]) {
  const weight = (hex: string) => [1, 3, 5].reduce((sum, k) => sum + parseInt(hex.slice(k, k + 2), 16), 0);
  const own = palette.filter((c) => !['#ffffff', '#000000', '#808080'].includes(c.hex.toLowerCase()));
  return own.reduce<(typeof own)[number] | null>((a, b) => (a === null || weight(b.hex) > weight(a.hex) ? b : a), null);
}

import type { GroundView } from '../../contract/views';
import type { GroundSource } from '../../worker/protocol';

/** One of the six grounds of the proof strip. */
export interface ProofGround extends GroundSource {
  readonly name: string;
}

/** Three plain grounds, the brand's lightest colour that is none of them, a light and a dark photo. */
export function proofGrounds(
  palette: readonly { name: string; hex: string }[],
  photos: readonly GroundView[],
): ProofGround[] {
  const plain = (id: string, name: string, hex: string): ProofGround => ({ id, name, hex, url: null });
  const photo = (tone: GroundView['tone']): ProofGround[] =>
    photos
      .filter((g) => g.tone === tone)
      .slice(0, 1)
      .map((g) => ({ id: g.id, name: g.name, hex: null, url: g.picture }));
  const brand = brandGround(palette);
  return [
    plain('white', 'White', '#ffffff'),
    plain('grey', 'Mid grey', '#808080'),
    plain('black', 'Black', '#000000'),
    ...(brand ? [plain('brand', brand.name, brand.hex)] : []),
    ...photo('light'),
    ...photo('dark'),
  ];
}

// A light colour of the brand shows most of what a mark meets there; black and white stand in the strip already.
function brandGround(palette: readonly { name: string; hex: string }[]) {
  const weight = (hex: string) => [1, 3, 5].reduce((sum, k) => sum + parseInt(hex.slice(k, k + 2), 16), 0);
  const own = palette.filter((c) => !['#ffffff', '#000000', '#808080'].includes(c.hex.toLowerCase()));
  return own.reduce<(typeof own)[number] | null>((a, b) => (a === null || weight(b.hex) > weight(a.hex) ? b : a), null);
}

import { rgbFromHex } from '../colour/hex';
import { deltaE, oklabFromSrgb } from '../colour/oklab';

/** What is asked of a piece to group it. */
export interface Coloured {
  /** Null where it has no single one. */
  readonly colour: string | null;
  readonly areaPx: number;
}

/** Pieces of one colour. */
export interface ColourGroup<P extends Coloured = Coloured> {
  /** Of its largest piece. */
  readonly hex: string;
  readonly pieces: readonly P[];
  readonly areaPx: number;
}

/** Closer than this to a group's largest piece, OKLab distance × 100, is the same colour: small pieces, mixed with the
 * ground at their edges and compressed, stray so far. */
const SAME = 7;

/** Pieces sorted by colour, the group of the largest area first. Pieces that have no single colour are in none. */
export function colourGroups<P extends Coloured>(pieces: readonly P[]): ColourGroup<P>[] {
  const groups: { hex: string; lab: [number, number, number]; pieces: P[]; areaPx: number }[] = [];
  for (const piece of [...pieces].sort((a, b) => b.areaPx - a.areaPx)) {
    if (piece.colour === null) continue;
    const lab = oklabFromSrgb(...rgbFromHex(piece.colour));
    const own = groups.find((g) => deltaE(g.lab, lab) < SAME);
    if (own) {
      own.pieces.push(piece);
      own.areaPx += piece.areaPx;
    } else groups.push({ hex: piece.colour, lab, pieces: [piece], areaPx: piece.areaPx });
  }
  return groups.sort((a, b) => b.areaPx - a.areaPx).map(({ hex, pieces, areaPx }) => ({ hex, pieces, areaPx }));
}

import { LEAST_LETTERS, findLettering, varyAsLetters } from './lettering';
import { type Piece, heightOf, widthOf } from './nesting';
import { ASKED, type JudgedArea, type Question, type Scene, rank, withDots } from './settleScene';

/** Strokes of letters knocked out of a plate: half their width against their height. */
const MOST_STROKE = 0.36;
/** Letters fill their boxes less than bars and panes do. */
const MOST_BOX_FILL = 0.8;

/** A plate is mostly paint, its walls uneven, and its outline fills its convex hull. */
const LEAST_PAINT = 0.45;
const UNEVEN = 2.5;
const WIDER = 1.5;
const LEAST_SIMPLE = 0.85;
/** Even walls are a plate's in a simple shape that is nearly all paint: bars, windows, dots. */
const HARDLY_EVEN = 1.6;
const SIMPLE = 0.95;
const MOSTLY_PAINT = 0.6;
/** In a simple shape a single judgement must be this certain to stand. */
const LEAST_TRUSTED = 0.9;
const LEAST_SIMPLE_OF_ONE = 0.93;
/** With so much of it in the ground's colour, what looks painted may still be cut out. */
const LEAST_WHITE = 0.14;
const LEAST_PICTURE = 0.05;
/** The largest patch of a picture against its middle one. */
const VARIED = 3;
/** A line round something covers no more of all it holds. */
const MOST_LINE = 0.3;

/** Plates: lettering knocked out of one and a figure in one are a question each, solid until answered. */
export function settlePlates(scene: Scene): void {
  const { nesting, byLabel, done, set } = scene;
  for (const piece of nesting.pieces) {
    const own = piece.areas.flatMap((l) => byLabel.get(l) ?? []).filter((a) => !a.shape.isPale && !done.has(a.label));
    if (own.length === 0) continue;
    const letters = knockedOut(own, piece);
    const rest = own.filter((a) => !letters.includes(a));
    const white = own.reduce((sum, a) => sum + (nesting.filled.get(a.label) ?? 0), 0);
    const isAsked = rest.some((a) => !isSurelySolid(a)) || isPicture(rest, white / piece.filledPx);
    const isFigure = isAsked && isPlate(own, piece, scene);
    if (letters.length === 0 && !isFigure) continue;
    const question: Question = { key: `plate ${piece.id}`, about: isFigure ? 'figure' : 'lettering' };
    const asked = [...letters, ...rest.filter((a) => isFigure || !isSurelySolid(a))];
    for (const a of asked) set(a.label, { decision: 'solid', certainty: ASKED, question });
    // A line round the figure cuts the plate in two: it goes with the figure.
    let { within } = piece;
    while (within !== null && byLabel.get(within)?.judgement.decision === 'solid' && isLine(within)) {
      set(within, { decision: 'solid', certainty: ASKED, question });
      within = nesting.around.get(within)?.within ?? null;
    }
  }

  function isLine(label: number): boolean {
    const area = byLabel.get(label);
    return area !== undefined && area.areaPx < MOST_LINE * (nesting.filled.get(label) ?? 0);
  }
}

/** Whether patches make up a picture of many parts, not some windows or eyes. */
function isPicture(patches: readonly JudgedArea[], white: number): boolean {
  if (patches.length < 3 || white < LEAST_PICTURE) return false;
  if (white > LEAST_WHITE) return true;
  const sizes = patches.map((a) => a.areaPx).sort((p, q) => p - q);
  return patches.length > 3 && rank(sizes, 1) > VARIED * rank(sizes, 0.5);
}

const isSurelySolid = ({ judgement }: JudgedArea) => judgement.decision === 'solid' && judgement.certainty >= 0.85;

function knockedOut(own: readonly JudgedArea[], piece: Piece): JudgedArea[] {
  if (own.length < LEAST_LETTERS) return [];
  const lines = findLettering(own)
    .map((line) => line.map((k) => own[k]))
    .filter((line) => {
      if (line.length < LEAST_LETTERS || !varyAsLetters(line)) return false;
      const filled = line.reduce((s, a) => s + a.areaPx, 0);
      const boxes = line.reduce((s, a) => s + heightOf(a) * widthOf(a), 0);
      const strokes = line.map((a) => a.shape.halfWidth / heightOf(a)).sort((a, b) => a - b);
      return (
        filled < (1 - LEAST_PAINT) * piece.filledPx &&
        filled < MOST_BOX_FILL * boxes &&
        rank(strokes, 0.5) < MOST_STROKE
      );
    });
  return [...new Set(lines.flatMap((line) => withDots(line, own)))];
}

/**
 * A filled shape that was painted on, not strokes that leave gaps: mostly paint, simple in outline, and with walls of
 * many widths where strokes have one.
 */
function isPlate(own: readonly JudgedArea[], piece: Piece, { nesting }: Scene): boolean {
  if (piece.areaPx < LEAST_PAINT * piece.filledPx) return false;
  // Gaps between strokes are wider than the strokes; a picture is painted on something wider than its parts.
  const largest = own.reduce((p, q) => (q.areaPx > p.areaPx ? q : p));
  if (largest.shape.halfWidth > WIDER * largest.shape.body) return false;
  const walls = own.flatMap((a) => a.walls).sort((p, q) => p - q);
  const unevenness = rank(walls, 0.8) / Math.max(1, rank(walls, 0.2));
  const solidity = nesting.solidity(piece);
  if (own.length === 1) return unevenness > UNEVEN && solidity >= LEAST_SIMPLE_OF_ONE && !isHandle(walls);
  if (unevenness > UNEVEN) return solidity >= LEAST_SIMPLE;
  const isDoubted = unevenness > HARDLY_EVEN || own.some((a) => a.judgement.certainty < LEAST_TRUSTED);
  return isDoubted && solidity >= SIMPLE && piece.areaPx > MOSTLY_PAINT * piece.filledPx;
}

// The hole of a handle has one thin wall along half of its rim, and the body behind the rest.
const isHandle = (walls: readonly number[]) => rank(walls, 0.4) < 1.4 * rank(walls, 0.1);

import { type Nesting, heightOf } from './nesting';
import { settlePlates } from './settlePlates';
import { settleRings } from './settleRings';
import { BESIDE, type JudgedArea, type Scene, type Settled, UNSURE_BELOW, boxAround, isIn } from './settleScene';
import { OUTLINED, settleWords } from './settleWords';

/**
 * Lays over single judgements what areas are together: counters of lettering, lettering knocked out of a plate,
 * outlined letters, figures in a plate, the inside of a ring round a figure (docs/adr/0023).
 */
export function settleTogether(areas: readonly JudgedArea[], nesting: Nesting): Map<number, Settled> {
  const byLabel = new Map(areas.map((a) => [a.label, a]));
  const settled = new Map<number, Settled>(areas.map((a) => [a.label, { ...a.judgement, question: null }]));
  const done = new Set<number>();
  const set = (label: number, value: Settled) => {
    if (byLabel.get(label)?.shape.isPale) return;
    settled.set(label, value);
    done.add(label);
  };
  const scene: Scene = { nesting, byLabel, settled, done, set };
  settleWords(scene);
  settlePlates(scene);
  settleRings(scene);
  followInwards(scene);
  askPerPiece(scene);
  joinOutlined(scene);
  return settled;
}

// Nothing shows through paint: what lies inside a solid area is solid with it, outlined letters apart.
function followInwards({ nesting, settled, byLabel }: Scene): void {
  for (const piece of nesting.pieces) {
    if (piece.within === null) continue;
    const outer = settled.get(piece.within);
    if (!outer || outer.decision !== 'solid' || outer.question === OUTLINED) continue;
    if (byLabel.get(piece.within)?.shape.isPale) continue;
    for (const label of piece.areas) {
      const own = settled.get(label);
      if (!own || byLabel.get(label)?.shape.isPale || (own.decision === 'solid' && own.question)) continue;
      settled.set(label, { ...outer });
    }
  }
}

// What is unsure in one piece of the mark is one question.
function askPerPiece({ nesting, settled }: Scene): void {
  for (const [label, value] of settled) {
    if (value.certainty >= UNSURE_BELOW || value.question) continue;
    const piece = nesting.around.get(label);
    settled.set(label, {
      ...value,
      question: { key: `piece ${piece?.id ?? label} ${value.decision}`, about: 'area' },
    });
  }
}

// What is asked of between outlined letters (two that run into each other, a joined flourish) goes with them.
function joinOutlined({ byLabel, settled }: Scene): void {
  const letters = [...settled].flatMap(([l, v]) => (v.question === OUTLINED ? (byLabel.get(l) ?? []) : []));
  if (letters.length === 0) return;
  const box = boxAround(letters);
  for (const [label, value] of settled) {
    const area = byLabel.get(label);
    if (!area || !value.question || value.question === OUTLINED) continue;
    if (isIn(area, box, heightOf(box) * BESIDE)) settled.set(label, { ...value, question: OUTLINED });
  }
}

import type { Rgb } from '../colour/hex';
import type { Anchor } from '../params';
import type { AreaFact } from './cutOutFacts';

/** A reduced picture shows the ground this much otherwise, code values. */
const SLACK = 10;
/** Alike in size: neither more than this many times the other. */
const ALIKE_RATIO = 2.2;

/** The areas that belong to the same inner detail, this one among them. */
export const groupOf = (areas: readonly AreaFact[], one: AreaFact): AreaFact[] =>
  areas.filter((a) => a.group === one.group);

/** The areas that are alike: of the same kind, decided alike, and of nearly the same size, this one among them. */
export const alikeTo = (areas: readonly AreaFact[], one: AreaFact): AreaFact[] =>
  areas.filter(
    (a) =>
      a.isPale === one.isPale &&
      a.decision === one.decision &&
      Math.max(a.areaPx, one.areaPx) <= ALIKE_RATIO * Math.min(a.areaPx, one.areaPx),
  );

/** A person's decisions with some areas decided anew: an earlier choice at the same place gives way. */
export function chooseAreas(
  choices: readonly Anchor[],
  areas: readonly AreaFact[],
  decision: Anchor['decision'],
): Anchor[] {
  const others = choices.filter((c) => !areas.some((a) => Math.hypot(a.x - c.x, a.y - c.y) <= 0.5));
  return [...others, ...areas.map(({ x, y }) => ({ x, y, decision }))];
}

/**
 * The area that a press on the picture means: the smallest whose bounds hold the place, provided that the original
 * shows the ground there. Null beside all areas and on the mark itself.
 * @param seen ground  colours R, G, B: what the original shows at the place, and the ground's own
 */
export function areaAt(
  areas: readonly AreaFact[],
  place: { x: number; y: number },
  seen: Rgb,
  ground: Rgb,
  tolerance: number,
): AreaFact | null {
  if (seen.some((v, c) => Math.abs(v - ground[c]) > tolerance + SLACK)) return null;
  const holds = ({ bounds: b }: AreaFact) =>
    place.x >= b.x && place.y >= b.y && place.x <= b.x + b.width && place.y <= b.y + b.height;
  return (
    areas.filter(holds).sort((a, b) => a.bounds.width * a.bounds.height - b.bounds.width * b.bounds.height)[0] ?? null
  );
}

/** The unsure area that comes after a given one, or the first; null when all are sure. */
export function nextUnsure(areas: readonly AreaFact[], after: number | null): AreaFact | null {
  const unsure = areas.filter((a) => a.isUnsure);
  return unsure.find((a) => after !== null && a.number > after) ?? unsure[0] ?? null;
}

/** Areas that a list shows as one: they share what they are and what becomes of them. */
export interface AreaRow {
  readonly areas: readonly AreaFact[];
  /** The one that stands for them. */
  readonly lead: AreaFact;
}

/**
 * Rows of a list: every unsure area for itself, first; of the sure ones those that are alike together, in the order of
 * their first.
 */
export function rowsOf(areas: readonly AreaFact[]): AreaRow[] {
  const unsure = areas.filter((a) => a.isUnsure).map((lead) => ({ areas: [lead], lead }));
  const rows: AreaRow[] = [];
  const placed = new Set<number>();
  for (const lead of areas) {
    if (lead.isUnsure || placed.has(lead.number)) continue;
    const alike = alikeTo(areas, lead).filter((a) => !a.isUnsure && !placed.has(a.number));
    alike.forEach((a) => placed.add(a.number));
    rows.push({ areas: alike, lead });
  }
  return [...unsure, ...rows];
}

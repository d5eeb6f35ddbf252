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

/** What a person is asked: the areas of each question together, in the order in which they are asked. */
export function questionsOf(areas: readonly AreaFact[]): AreaFact[][] {
  const by = new Map<number, AreaFact[]>();
  for (const a of areas) if (a.isUnsure) addTo(by, a.group, a);
  return [...by.values()];
}

/** What a question is about, in words. */
export const ASKS: Record<NonNullable<AreaFact['asks']>, string> = {
  lettering: 'lettering in a filled shape',
  figure: 'figure in a filled shape',
  outlined: 'outlined letters',
  ring: 'inside of a ring',
  area: 'enclosed area',
};

/** The first area of the question that comes after a given one, or of the first; null when all are sure. */
export function nextUnsure(areas: readonly AreaFact[], after: number | null): AreaFact | null {
  const leads = questionsOf(areas).map(([lead]) => lead);
  return leads.find((a) => after !== null && a.number > after) ?? leads[0] ?? null;
}

/** Areas that a list shows as one: they share what they are and what becomes of them. */
export interface AreaRow {
  readonly areas: readonly AreaFact[];
  /** The one that stands for them. */
  readonly lead: AreaFact;
}

/** Rows of a list: every question first, then sure areas, those that are alike together in the order of their first. */
export function rowsOf(areas: readonly AreaFact[]): AreaRow[] {
  const asked = questionsOf(areas).map((list) => ({ areas: list, lead: list[0] }));
  const rows: AreaRow[] = [];
  const placed = new Set<number>();
  for (const lead of areas) {
    if (lead.isUnsure || placed.has(lead.number)) continue;
    const alike = alikeTo(areas, lead).filter((a) => !a.isUnsure && !placed.has(a.number));
    alike.forEach((a) => placed.add(a.number));
    rows.push({ areas: alike, lead });
  }
  return [...asked, ...rows];
}

/** Areas with a mark of their own on the picture: one for each question, and one for what was answered together. */
export function markedOf(areas: readonly AreaFact[]): AreaRow[] {
  const by = new Map<string, AreaFact[]>();
  for (const a of areas) {
    if (!a.isUnsure && !a.isChosen) continue;
    addTo(by, `${a.group} ${a.isUnsure} ${a.decision}`, a);
  }
  return [...by.values()].map((list) => ({ areas: list, lead: list[0] }));
}

function addTo<K, V>(lists: Map<K, V[]>, key: K, value: V): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

import type { RectPx } from '../params';
import type { PageLine } from './findLines';

/** Words of a page and where they stand, points from the upper left corner. */
export interface PageWord extends RectPx {
  readonly text: string;
}

export interface ScoredLine extends PageLine {
  /** Larger is better; below 0 nobody signs there. */
  readonly score: number;
  /** What stands beside it. */
  readonly words: string;
}

/** Words beside a line on which somebody signs, and on which something else is written. */
const SIGN = /\b(sign(ature|ed|s|atory)?|undersigned|unterschrift|unterzeichnet|firma|firmado|assinatura|signé)\b/i;
const OTHER =
  /\b(date|datum|dated?|fecha|name|print(ed)?|place|ort|title|position|address|phone|e-?mail|initials?|no\.?|total)\b/i;

/** Lengths in points. */
const near = { below: 26, beside: 30, above: 60, leftReach: 180 };
const usual = { leastWidth: 85, mostWidth: 330, leastRoom: 15, goodRoom: 24 };

const weights = { signBelow: 50, signLeft: 50, signAbove: 20, other: -45, boxed: -12, wide: -25, row: -20, edge: -25 };

/**
 * How likely each line is the one to be signed, the likeliest first: by its length, the room above it and the words
 * beside it, below it and before it.
 */
export function scoreLines(
  lines: readonly PageLine[],
  words: readonly PageWord[],
  page: { width: number; height: number },
): ScoredLine[] {
  return lines
    .filter((line) => line.room >= usual.leastRoom)
    .map((line) => {
      const { below, left, above } = wordsAround(line, words);
      const reads = (text: string, sign: number) => (SIGN.test(text) ? sign : OTHER.test(text) ? weights.other : 0);
      // What stands right below or before a line says what it is for; what stands above it counts where nothing does.
      const nearest = [reads(below, weights.signBelow), reads(left, weights.signLeft)];
      const said = nearest.some((v) => v > 0) ? Math.max(...nearest) : Math.min(...nearest);
      const fromAbove = said === 0 ? reads(above, weights.signAbove) : 0;
      const like = lines.filter((l) => Math.abs(l.x - line.x) < 3 && Math.abs(l.width - line.width) < 3).length;
      const score =
        10 +
        said +
        fromAbove +
        lengthScore(line.width) +
        Math.min(10, ((line.room - usual.leastRoom) / (usual.goodRoom - usual.leastRoom)) * 10) +
        (line.isBoxed ? weights.boxed : 0) +
        (line.width > page.width * 0.68 ? weights.wide : 0) +
        (like > 3 ? weights.row : 0) +
        (line.y < page.height * 0.12 || line.y > page.height * 0.96 ? weights.edge : 0) +
        // Of two that are alike the lower one: documents end with it.
        (line.y / page.height) * 8;
      return { ...line, score, words: [left, below, above].filter(Boolean).join(' · ') };
    })
    .sort((a, b) => b.score - a.score);
}

function lengthScore(width: number): number {
  if (width < usual.leastWidth) return -15;
  return width > usual.mostWidth ? -8 : 8;
}

function wordsAround(line: PageLine, words: readonly PageWord[]): { below: string; left: string; above: string } {
  const right = line.x + line.width;
  const text = (found: readonly PageWord[]) =>
    found
      .map((w) => w.text)
      .join(' ')
      .replace(/[._…-]{3,}/g, ' ')
      .trim();
  const middle = (w: PageWord) => w.y + w.height / 2;
  const crosses = (w: PageWord) => Math.min(w.x + w.width, right) - Math.max(w.x, line.x) > Math.min(w.width, 8) * 0.6;
  const below = words.filter((w) => crosses(w) && w.y > line.y - 3 && w.y < line.y + near.below && middle(w) > line.y);
  const nearestBelow = Math.min(...below.map((w) => w.y));
  const onLine = words.filter((w) => middle(w) < line.y + 4 && middle(w) > line.y - 14 && w.x < line.x);
  const left = onLine.filter((w) => w.x + w.width > line.x - near.beside && w.x > line.x - near.leftReach);
  // Runs of a sentence stand side by side: those that lead to the line are read with it.
  const chain = [...left];
  for (const w of [...onLine].sort((a, b) => b.x - a.x)) {
    const next = Math.min(...chain.map((c) => c.x), Infinity);
    if (!chain.includes(w) && next - (w.x + w.width) < 12 && w.x > line.x - near.leftReach) chain.push(w);
  }
  const above = words.filter(
    (w) => crosses(w) && middle(w) < line.y && middle(w) > line.y - line.room - near.above / 2,
  );
  return {
    below: text(below.filter((w) => w.y < nearestBelow + 6)),
    left: text(chain.sort((a, b) => a.x - b.x)),
    above: text(above),
  };
}

/** What a line may be for beside signing. */
const FOR = { date: /\b(date|datum|dated?|fecha)\b/i, name: /\b(name|print(ed)?)\b/i } as const;

/** The line of a page on which a date or a name is written, if there is one. */
export const lineFor = <L extends { readonly words: string }>(lines: readonly L[], what: keyof typeof FOR): L | null =>
  lines.find((line) => FOR[what].test(line.words) && !SIGN.test(line.words)) ?? null;

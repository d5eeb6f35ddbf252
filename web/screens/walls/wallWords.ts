import type { SlotProblem, SlotView, WallView } from '../../../contract/walls';
import type { GroundView, PaletteColour } from '../../../contract/views';

/** A few words for a slot's corner, what is wrong in a sentence, and what one press does about it. */
export interface ProblemWords {
  readonly tag: string;
  readonly title: string;
  readonly detail: string;
  readonly mend: string;
}

const times = (v: number) => `${v.toFixed(1)} times`;

export function problemWords(problem: SlotProblem, slot: SlotView): ProblemWords {
  switch (problem) {
    case 'white-box':
      return {
        tag: 'white box',
        title: 'White box.',
        detail: 'The logo brings its own white ground.',
        mend: 'Cut it out',
      };
    case 'fringe': {
      const isDark = slot.look?.oldGround === '#000000';
      const [look, ground, under] = isDark ? ['Dark', 'black', 'light'] : ['Light', 'white', 'dark'];
      return {
        tag: `${look.toLowerCase()} fringe`,
        title: `${look} fringe.`,
        detail: `Its edges still hold a ${ground} ground; on anything ${under} they show a rim.`,
        mend: `Take the ${ground} out`,
      };
    }
    case 'enlarged': {
      const by = slot.look?.enlarged ?? 1;
      const isFew = by > 1.05;
      return {
        tag: isFew ? `enlarged ${times(by)}` : 'blown up',
        title: isFew ? `Enlarged ${times(by)}.` : 'Blown up before.',
        detail: isFew
          ? `${slot.widthPx} × ${slot.heightPx} px are too few for this slot.`
          : 'Its edges are soft: it was enlarged beyond its pixels before it came.',
        mend: 'Trace it',
      };
    }
    case 'margins':
      return {
        tag: 'empty margins',
        title: 'Empty margins.',
        detail: 'More than a quarter of the file is empty, so the logo comes out small.',
        mend: 'Trim it',
      };
    case 'stretched':
      return {
        tag: 'stretched',
        title: 'Stretched.',
        detail:
          'It was drawn out or pressed together one way. The measure is an estimate; set it right below if it is off.',
        mend: 'Set it right',
      };
    case 'lost':
      return {
        tag: 'hardly seen',
        title: 'Hardly seen on this ground.',
        detail: 'Its contrast is under 1.7 : 1.',
        mend: 'Take the best variant',
      };
    case 'duplicate':
      return {
        tag: 'a copy',
        title: 'A copy.',
        detail: 'The same mark stands on this wall already.',
        mend: 'Leave it out',
      };
    case 'older':
      return {
        tag: 'older',
        title: 'Older than its mark.',
        detail: `${slot.markName} has a newer original.`,
        mend: 'Take the newest',
      };
    case 'gone':
      return { tag: 'removed', title: 'Its mark was removed.', detail: 'Nothing can be shown.', mend: 'Leave it out' };
  }
}

/** An optical size against the middle one. */
export const sizeWords = (size: number, usual: number) => (size / usual).toFixed(2);

/** A size so far off the middle one is seen to be. */
const SEEN = 0.12;

/** What a mark's size means among the others: as it is shown, and in boxes of one size. */
export function sizeSentence(before: number, after: number, usual: number): string {
  const isSeen = (size: number) => Math.abs(size / usual - 1) > SEEN;
  const than = (size: number) => `${size > usual ? 'larger' : 'smaller'} than its neighbours`;
  const shown = isSeen(after) ? `Looks ${than(after)}.` : 'Looks as large as its neighbours.';
  if (!isSeen(before) || Math.abs(before - after) < usual * SEEN) return shown;
  return `${shown} In boxes of one size it would look ${than(before)}: ${sizeWords(before, usual)}.`;
}

export interface GroundChoice {
  readonly key: string;
  readonly label: string;
  readonly hex: string;
  readonly id: string | null;
}

/** Grounds that a wall may stand on: plain ones, the palette, and photos. */
export function groundChoices(palette: readonly PaletteColour[], grounds: readonly GroundView[]): GroundChoice[] {
  const plain = [
    { name: 'White', hex: '#ffffff' },
    { name: 'Fog', hex: '#e8e6df' },
    { name: 'Mid grey', hex: '#8a8a8a' },
    { name: 'Black', hex: '#141414' },
  ];
  const colours = [...plain, ...palette].map(({ name, hex }) => ({ key: hex, label: name, hex, id: null }));
  const photos = grounds.filter((g) => g.picture).map((g) => ({ key: g.id, label: g.name, hex: '#ffffff', id: g.id }));
  return [...new Map([...colours, ...photos].map((c) => [c.key, c])).values()];
}

export const toMend = ({ slots }: Pick<WallView, 'slots'>): SlotView[] => slots.filter((s) => s.problems.length > 0);

const FIXED_FILES = ['wall.png', 'wall.html', 'wall.pdf'];

/** Files that a wall without problems is exported as: each slot once and twice, paths where there are any, the wall. */
const fileCount = ({ slots, rule }: Pick<WallView, 'slots' | 'rule'>): number =>
  slots.reduce((n, s) => n + (s.look?.hasPaths ? 3 : 2), FIXED_FILES.length + (rule.groundId ? 1 : 0));

/** What the main button does. Fixing may add or leave out files, so that their number is known only afterwards. */
export function exportLabel(wall: Pick<WallView, 'slots' | 'rule'>, broken: readonly SlotView[]): string {
  if (broken.length === 0) return `Export ${fileCount(wall)} files`;
  const leaves = broken.filter((s) => s.problems.some((p) => p === 'duplicate' || p === 'gone')).length;
  return `Fix ${broken.length} and export ${count(wall.slots.length - leaves, 'logo')}`;
}

/** The counts that come with an export. */
export interface WallCounts {
  readonly logos: number;
  readonly files: number;
  readonly fixed: number;
  readonly withProblems: number;
  readonly leftOut: number;
  readonly withoutSvg: number;
}

/** What was exported, in words. The names stand in the receipt among the files. */
export function exportedWords({ logos, files, fixed, withProblems, leftOut, withoutSvg }: WallCounts): string {
  const parts = [
    fixed > 0 && `${fixed} fixed`,
    leftOut > 0 && `${leftOut} left out`,
    withProblems > 0 && `${withProblems} with problems`,
    withoutSvg > 0 && `${withoutSvg} without SVG`,
  ].filter(Boolean);
  const named = parts.length === 0 ? '' : ` ${parts.join(', ')}: the receipt names them.`;
  return `${count(files, 'file')} of ${count(logos, 'logo')} exported and checked.${named}`;
}

const count = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;

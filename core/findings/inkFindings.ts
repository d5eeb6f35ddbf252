import { rgbFromHex } from '../colour/hex';
import { deltaE, oklabFromSrgb } from '../colour/oklab';
import type { InkFacts } from '../ink/cutOutInk';
import { LEAST_LEVEL, MOST_LEVEL } from '../limits';
import { findExtents } from '../raster/extents';
import type { Raster } from '../raster/raster';
import type { Artwork } from '../artwork/artwork';
import { type Finding, count } from './finding';
import { placesOf, touchedSides } from './places';

/** Strokes thinner than this in the original break up or turn jagged in any larger file. */
const THIN_PX = 2.6;
const SMALL_PX = 500;
/** Edges of strokes that take longer than this from a quarter to three quarters of their ink are out of focus. */
const BLUR_PX = 3.2;
/** The outermost pixels of a photograph hold no whole stroke edge, so ink ends just short of them. */
const RIM_PX = 2;
/** On a reduced picture every edge is at least about this wide. */
const LEAST_MEASURED_PX = 2.4;
/** Ink no further than this from its paper is hard to tell from it. */
const FAINT_DELTA_E = 26;

/** What can be said against ink that was taken off paper. Lengths are judged at full size. */
export function inkFindings(
  picture: Raster,
  facts: InkFacts,
  { toWorking, reduction }: Artwork,
  isOneChosen: boolean,
): Finding[] {
  const found: Finding[] = [];
  const add = (f: Omit<Finding, 'stage'>) => found.push({ ...f, stage: 'cutOut' });
  const extents = findExtents(picture);
  if (!extents) {
    add({
      id: 'nothing-left',
      weight: 'fault',
      title: 'nothing is left',
      detail: 'No stroke reaches the cut level. Lower it.',
      places: [],
      fixes: [{ label: 'Back to automatic', change: { level: null } }],
    });
    return found;
  }
  if (!isOneChosen && facts.marks.length > 1) {
    add({
      id: 'several-marks',
      weight: 'note',
      title: `${facts.marks.length} signatures on one sheet`,
      detail: 'All of them are kept. Take one at Crop, or make each a mark of its own.',
      places: placesOf(
        toWorking,
        facts.marks.map((m) => ({ x: m.box.x + m.box.width / 2, y: m.box.y + m.box.height / 2 })),
      ),
    });
  }
  if (facts.faint.length) {
    const most = facts.faint[0];
    add({
      id: 'strokes-faint',
      weight: 'risk',
      title: count(facts.faint.length, 'stroke near loss', 'strokes near loss'),
      detail:
        `${count(facts.faint.length, 'stroke')} only just ` +
        `${facts.faint.length === 1 ? 'reaches' : 'reach'} the cut level, the largest of ` +
        `${Math.round(most.areaPx * reduction * reduction)} px. A lower level keeps more of them.`,
      places: placesOf(toWorking, facts.faint),
      fixes: [
        {
          label: 'Lower the level',
          change: { level: Math.max(LEAST_LEVEL, Math.round(facts.level * 0.6 * 1000) / 1000) },
        },
      ],
    });
  }
  if (facts.strays.length) {
    add({
      id: 'stray-pieces',
      weight: 'note',
      title: `${count(facts.strays.length, 'stray piece')} left out`,
      detail:
        `${count(facts.strays.length, 'piece')} too small or too far off to be strokes, the ` +
        `largest of ${Math.round(facts.strays[0].areaPx * reduction * reduction)} px, ` +
        `${facts.strays.length === 1 ? 'was' : 'were'} left out.`,
      places: placesOf(toWorking, facts.strays),
    });
  }
  if (facts.lineRemains.length) {
    add({
      id: 'lines-remain',
      weight: 'risk',
      title: 'printed line left',
      detail:
        `${count(facts.lineRemains.length, 'piece')} along a printed line may be what is left ` +
        'of the line. Raise the cut level, or crop closer.',
      places: placesOf(toWorking, facts.lineRemains),
      fixes: [
        {
          label: 'Raise the level',
          change: { level: Math.min(MOST_LEVEL, Math.round(facts.level * 1.4 * 1000) / 1000) },
        },
      ],
    });
  }
  const [ink, paper] = [facts.inkHex, facts.paperHex].map((hex) => oklabFromSrgb(...rgbFromHex(hex)));
  const contrast = deltaE(ink, paper);
  if (contrast < FAINT_DELTA_E) {
    add({
      id: 'ink-faint',
      weight: 'risk',
      title: 'ink is faint',
      detail:
        'The ink hardly differs from its paper, so thin strokes may be missing. More light ' +
        'from the side, or a darker pen, gives more.',
      places: [],
    });
  }
  // Pale ink takes on the paper's hue: what shows through cannot be told from what the ink is.
  const chroma = Math.hypot(paper[1], paper[2]);
  const along = chroma > 0 ? (ink[1] * paper[1] + ink[2] * paper[2]) / chroma : 0;
  if (chroma > 0.02 && along > 0.5 * chroma && ink[0] > 0.45) {
    add({
      id: 'paper-tint',
      weight: 'note',
      title: 'ink may hold the paper’s tint',
      detail:
        `The ink was measured as ${facts.inkHex}, which leans to the paper’s own hue. Set the ` +
        'ink’s colour if you know it.',
      places: [],
      fixes: [{ label: 'Make the ink neutral', change: { ink: [neutral(facts.inkHex)] } }],
    });
  }
  const strokePx = facts.strokePx * reduction;
  const longest = Math.max(extents.width, extents.height) * reduction;
  if (longest < SMALL_PX || strokePx < THIN_PX) {
    add({
      id: 'source-small',
      weight: 'risk',
      title: 'source is small',
      detail:
        `The writing is ${Math.round(extents.width * reduction)} px wide with strokes of ` +
        `${strokePx.toFixed(1)} px. Photograph it closer for large files.`,
      places: [],
    });
  }
  if (facts.edgePx * reduction > BLUR_PX && facts.edgePx > LEAST_MEASURED_PX) {
    add({
      id: 'blurred',
      weight: 'risk',
      title: 'picture is blurred',
      detail:
        `Stroke edges are ${(facts.edgePx * reduction).toFixed(1)} px wide. A sharper ` +
        'photograph gives crisper strokes.',
      places: [],
    });
  }
  const sides = touchedSides(picture, extents, RIM_PX);
  if (sides.length) {
    add({
      id: 'touches-border',
      weight: 'risk',
      title: 'mark is cut by the edge',
      detail:
        `Ink runs into the ${sides.map((s) => s.name).join(' and ')} edge of the picture and ` +
        'may be cut off there.',
      places: placesOf(toWorking, sides),
    });
  }
  return found;
}

function neutral(hex: string): string {
  const [r, g, b] = rgbFromHex(hex);
  const grey = Math.round(0.2126 * r + 0.7152 * g + 0.0722 * b);
  return `#${grey.toString(16).padStart(2, '0').repeat(3)}`;
}

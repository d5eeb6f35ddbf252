import type { FlatFacts } from '../matte/cutOutFlat';
import { UNSURE_BELOW } from '../matte/enclosedAreas';
import { MOST_CHOKE_PX, MOST_CLEAN_UP } from '../limits';
import { findExtents } from '../raster/extents';
import type { Raster } from '../raster/raster';
import type { Artwork } from '../artwork/artwork';
import { type Finding, count } from './finding';
import { placesOf, touchedSides } from './places';

/** A mark narrower than this cannot fill a usual web slot without being enlarged. */
const SMALL_PX = 700;
/** A fringe on fewer of the edge pixels than this is not seen. */
const LEAST_FRINGE = 0.03;
/** Less than this share of what is visible is not missed. */
const LEAST_EATEN = 0.0006;
/** Compression that strays the ground further than this leaves marks of its own on the edges. */
const HEAVY_RIPPLE = 15;

/** What can be said against a cut-out from a flat ground. Lengths are judged at full size. */
export function cutOutFindings(
  picture: Raster,
  facts: FlatFacts,
  settings: { choke: number; cleanUp: number },
  { toWorking, reduction }: Artwork,
): Finding[] {
  const found: Finding[] = [];
  const add = (f: Omit<Finding, 'stage'>) => found.push({ ...f, stage: 'cutOut' });
  const unsure = facts.areas.filter((a) => a.certainty < UNSURE_BELOW);
  const asked = [...new Map([...unsure].reverse().map((a) => [a.group, a])).values()].reverse();
  if (unsure.length) {
    const isOneEach = asked.length === unsure.length;
    add({
      id: 'unsure-areas',
      weight: 'risk',
      title: isOneEach
        ? count(unsure.length, 'area unsure', 'areas unsure')
        : `${count(asked.length, 'question')} about ${unsure.length} areas`,
      detail:
        `${count(unsure.length, 'enclosed area')} could be see-through or part of the mark` +
        `${isOneEach ? '' : '; those that belong together get one answer'}. Choose open or solid.`,
      places: placesOf(toWorking, asked),
    });
  }
  const extents = findExtents(picture);
  if (!extents) {
    add({
      id: 'nothing-left',
      weight: 'fault',
      title: 'nothing is left',
      detail: 'The whole picture counts as ground. Lower the tolerance, or pick another ground colour.',
      places: [],
      fixes: [{ label: 'Back to automatic', change: { tolerance: null } }],
    });
    return found;
  }
  addTrouble(facts, settings, extents, toWorking, reduction, add);
  const widthPx = Math.round(extents.width * reduction);
  if (Math.max(extents.width, extents.height) * reduction < SMALL_PX) {
    add({
      id: 'source-small',
      weight: 'risk',
      title: 'source is small',
      detail:
        `The mark is ${widthPx} px wide in the original. Files wider than that are enlarged; ` +
        'ask for a larger original if you can.',
      places: [],
    });
  }
  const sides = touchedSides(picture, extents);
  if (sides.length) {
    add({
      id: 'touches-border',
      weight: 'risk',
      title: 'mark touches the border',
      detail:
        `The mark runs into the ${sides.map((s) => s.name).join(' and ')} edge of the picture ` +
        'and may be cut off there.',
      places: placesOf(toWorking, sides),
    });
  }
  if (facts.ground.checker) {
    add({
      id: 'ground-checker',
      weight: 'note',
      title: 'checker was baked in',
      detail:
        'The original only looked transparent: a checker pattern was part of its pixels. It ' +
        'is taken off square by square.',
      places: [],
    });
  } else if (facts.ground.drift > 12) {
    add({
      id: 'ground-uneven',
      weight: 'note',
      title: 'ground is uneven',
      detail:
        `The ground drifts by ${Math.round(facts.ground.drift)} of 255 levels across the ` +
        'picture; the drift is followed.',
      places: [],
    });
  }
  if (facts.ripple > HEAVY_RIPPLE) {
    add({
      id: 'source-compressed',
      weight: 'risk',
      title: 'source is heavily compressed',
      detail:
        `Compression strays the ground by ${Math.round(facts.ripple)} levels round the edges. ` +
        'Fine detail is lost there; a better original gives more.',
      places: [],
    });
  } else if (facts.ground.noise > 5) {
    add({
      id: 'ground-noisy',
      weight: 'note',
      title: 'ground is noisy',
      detail:
        `The ground strays by ${facts.ground.noise.toFixed(1)} levels. A cleaner original ` +
        'would give cleaner edges.',
      places: [],
    });
  }
  return found;
}

function addTrouble(
  { trouble, tolerance, study, ripple }: FlatFacts,
  { choke, cleanUp }: { choke: number; cleanUp: number },
  extents: { width: number; height: number },
  toWorking: Artwork['toWorking'],
  reduction: number,
  add: (f: Omit<Finding, 'stage'>) => void,
): void {
  if (!trouble) return;
  const { fringe, eaten, specks } = trouble;
  if (fringe.share > LEAST_FRINGE) {
    add({
      id: 'fringe',
      weight: fringe.share > 0.12 ? 'fault' : 'risk',
      title: 'fringe left',
      detail:
        `${Math.round(fringe.share * 100)} % of the edge still holds about ` +
        `${Math.round(fringe.strength * 100)} % of the old ground; it shows on dark pictures.`,
      places: placesOf(toWorking, fringe.places),
      fixes: [
        {
          label: 'Choke the edge by 0.5 px',
          change: { choke: Math.min(MOST_CHOKE_PX, Math.round((choke + 0.5) * 10) / 10) },
        },
      ],
    });
  }
  if (eaten.areaPx > extents.width * extents.height * LEAST_EATEN) {
    const isLoose = tolerance > study.steadyTo;
    add({
      id: 'artwork-eaten',
      weight: 'risk',
      title: 'artwork may be missing',
      detail:
        `${Math.round(eaten.areaPx * reduction * reduction)} px that stand out from the ` +
        'ground were taken away. Look whether they belong to the mark.',
      places: placesOf(toWorking, eaten.places),
      fixes: [
        isLoose
          ? { label: 'Back to automatic', change: { tolerance: null } }
          : { label: 'Less clean-up', change: { cleanUp: Math.max(0, Math.round((cleanUp - 0.4) * 10) / 10) } },
      ],
    });
  }
  if (specks.length) {
    add({
      id: 'specks',
      weight: 'risk',
      title: count(specks.length, 'speck left', 'specks left'),
      detail:
        `${count(specks.length, 'small piece')} ${specks.length === 1 ? 'stands' : 'stand'} ` +
        `alone, the largest of ${Math.round(specks[0].amount * reduction * reduction)} px. ` +
        `They would widen the file's extents.`,
      places: placesOf(toWorking, specks),
      ...(ripple < 3
        ? {}
        : {
            fixes: [
              {
                label: 'More clean-up',
                change: { cleanUp: Math.min(MOST_CLEAN_UP, Math.round((cleanUp + 0.4) * 10) / 10) },
              },
            ],
          }),
    });
  }
}

import type { FlatFacts } from '../matte/cutOutFlat';
import { UNSURE_BELOW } from '../matte/enclosedAreas';
import { type Matrix, transform } from '../geometry/matrix';
import { findExtents } from '../raster/extents';
import type { Raster } from '../raster/raster';
import { type Finding, count } from './finding';

/** A mark narrower than this cannot fill a usual web slot without being enlarged. */
const SMALL_PX = 700;

/** What can be said against a cut-out from a flat ground. Lengths are judged at full size. */
export function cutOutFindings(picture: Raster, facts: FlatFacts, toWorking: Matrix): Finding[] {
  const found: Finding[] = [];
  const stage = 'cutOut';
  const unsure = facts.areas.filter((a) => a.certainty < UNSURE_BELOW);
  if (unsure.length) {
    found.push({
      id: 'unsure-areas', stage, weight: 'risk', title: count(unsure.length, 'area unsure', 'areas unsure'),
      detail: `${count(unsure.length, 'enclosed area')} could be see-through or part of the mark. Check each and choose open or solid.`,
      places: unsure.map((a) => transform(toWorking, a.x, a.y)),
    });
  }
  const extents = findExtents(picture);
  if (!extents) {
    found.push({ id: 'nothing-left', stage, weight: 'fault', title: 'nothing is left', detail: 'The whole picture counts as ground. Lower the tolerance, or pick another ground colour.', places: [] });
    return found;
  }
  const scale = toWorking[0];
  const widthPx = Math.round(extents.width * scale);
  if (Math.max(extents.width, extents.height) * scale < SMALL_PX) {
    found.push({
      id: 'source-small', stage, weight: 'risk', title: 'source is small',
      detail: `The mark is ${widthPx} px wide in the original. Files wider than that are enlarged; ask for a larger original if you can.`, places: [],
    });
  }
  const sides = touchedSides(picture, extents);
  if (sides.length) {
    found.push({
      id: 'touches-border', stage, weight: 'risk', title: 'mark touches the border',
      detail: `The mark runs into the ${sides.map((s) => s.name).join(' and ')} edge of the picture and may be cut off there.`,
      places: sides.map((s) => transform(toWorking, s.x, s.y)),
    });
  }
  if (facts.ground.drift > 12) {
    found.push({ id: 'ground-uneven', stage, weight: 'note', title: 'ground is uneven', detail: `The ground drifts by ${Math.round(facts.ground.drift)} of 255 levels across the picture; the drift is followed.`, places: [] });
  }
  if (facts.ground.noise > 5) {
    found.push({ id: 'ground-noisy', stage, weight: 'note', title: 'ground is noisy', detail: `The ground strays by ${facts.ground.noise.toFixed(1)} levels. A cleaner original would give cleaner edges.`, places: [] });
  }
  return found;
}

function touchedSides({ width, height, data }: Raster, e: { x: number; y: number; width: number; height: number }): { name: string; x: number; y: number }[] {
  const opaque = (x: number, y: number) => data[(y * width + x) * 4 + 3] > 127;
  const along = (n: number, at: (k: number) => [number, number]) => {
    for (let k = 0; k < n; k++) if (opaque(...at(k))) return at(k);
    return null;
  };
  const sides: { name: string; x: number; y: number }[] = [];
  const check = (name: string, hit: [number, number] | null) => hit && sides.push({ name, x: hit[0], y: hit[1] });
  if (e.y === 0) check('top', along(width, (k) => [k, 0]));
  if (e.x + e.width === width) check('right', along(height, (k) => [width - 1, k]));
  if (e.y + e.height === height) check('bottom', along(width, (k) => [k, height - 1]));
  if (e.x === 0) check('left', along(height, (k) => [0, k]));
  return sides;
}

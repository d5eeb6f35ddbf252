import { expect, it } from 'vitest';
import { USUAL_WALL } from '../core/wall/wallRule';
import { placesOf, usualSize } from './wallPlaces';
import type { SlotLook, SlotView } from './walls';

const look = (width: number, height: number): SlotLook => ({
  ...{ width, height, picture: '/p', hasPaths: false, stretch: 1, enlarged: 1, best: null, oldGround: null },
  optics: { size: Math.sqrt(width * height), middle: { x: width / 2, y: height / 2 } },
});
const slot = (id: string, change: Partial<SlotView>): SlotView => ({
  ...{ id, markId: id, markName: id, revision: 1, file: `${id}.png`, format: 'PNG', widthPx: 9, heightPx: 9 },
  ...{ shows: 'mark', variant: null, variants: [], squeeze: 1, problems: [], look: null, ...change },
});
const slots = [
  slot('wide', { look: look(400, 100) }),
  slot('square', { look: look(200, 200) }),
  slot('waiting', {}),
  slot('as-it-came', { look: look(360, 180), shows: 'file' }),
];
const rule = { ...USUAL_WALL, level: 1 };

it('only what was looked at has a place, by its slot’s id', () =>
  expect([...placesOf({ rule, slots }).keys()]).toEqual(['wide', 'square', 'as-it-came']));
it('marks are levelled, a file as it came fills its slot', () => {
  const places = placesOf({ rule, slots });
  const sizeOf = (id: string) => places.get(id)?.opticalSizeAfter ?? 0;
  expect(sizeOf('wide') / sizeOf('square')).toBeCloseTo(1, 2);
  expect(places.get('as-it-came')?.scale).toBe(
    placesOf({ rule: { ...rule, level: 0 }, slots }).get('as-it-came')?.scale,
  );
});
it('the usual size is the middle one, and never nothing', () => {
  const places = placesOf({ rule: { ...rule, level: 0 }, slots });
  const sizes = [...places.values()].map((p) => p.opticalSizeAfter).sort((a, b) => a - b);
  expect(usualSize(places)).toBe(sizes[1]);
  expect(usualSize(new Map())).toBe(1);
});

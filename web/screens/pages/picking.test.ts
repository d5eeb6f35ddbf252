import { describe, expect, it } from 'vitest';
import type { PageView } from '../../../contract/views';
import { NOTHING, boxOf, objectsIn, pressed, textsAmong, toggleObjects, togglePicture } from './picking';

const object = (x: number, y: number, width: number, height: number) => ({
  d: 'M0 0Z',
  box: { x, y, width, height },
  rule: 'nonzero' as const,
  colour: '#000000',
  opacity: 1,
});
const page: PageView = {
  widthPt: 200,
  heightPt: 300,
  objects: [object(10, 10, 20, 20), object(40, 10, 20, 20), object(100, 200, 50, 0)],
  groups: [{ objects: [0, 1], box: { x: 10, y: 10, width: 50, height: 20 } }],
  texts: [{ x: 30, y: 12, width: 10, height: 8 }],
  pictures: [{ x: 100, y: 100, width: 50, height: 40, canTake: true }],
};

describe('picking on a page', () => {
  it('adds what is pressed, and takes it away when all of it was picked', () => {
    const both = toggleObjects(NOTHING, pressed(page, 1, true));
    expect([...both.objects]).toEqual([0, 1]);
    expect([...toggleObjects(both, pressed(page, 1, false)).objects]).toEqual([0]);
    expect(toggleObjects(both, [0, 1]).objects.size).toBe(0);
  });
  it('picks what lies in a rectangle, level lines too, and nothing that sticks out of it', () => {
    expect(objectsIn(page, { x: 5, y: 5, width: 40, height: 40 })).toEqual([0]);
    expect(objectsIn(page, { x: 90, y: 190, width: 80, height: 30 })).toEqual([2]);
  });
  it('takes a picture by itself', () => {
    const picture = togglePicture(toggleObjects(NOTHING, [0]), 0);
    expect(picture).toEqual({ objects: new Set(), picture: 0 });
    expect(boxOf(page, picture)).toMatchObject({ x: 100, width: 50 });
    expect(togglePicture(picture, 0).picture).toBeNull();
  });
  it('tells of text only when it stands among what is picked', () => {
    expect(textsAmong(page, toggleObjects(NOTHING, [0, 1]))).toBe(1);
    expect(textsAmong(page, toggleObjects(NOTHING, [2]))).toBe(0);
    expect(boxOf(page, toggleObjects(NOTHING, [0, 1]))).toEqual({ x: 10, y: 10, width: 50, height: 20 });
    expect(boxOf(page, NOTHING)).toBeNull();
  });
});

import { describe, expect, it } from 'vitest';
import { initialRecipe } from '../core/recipe/recipe';
import { USUAL_WALL } from '../core/wall/wallRule';
import { BUNDLE_FORMAT, BUNDLE_VERSION, readManifest } from './bundleManifest';

const revision = (parent: number | null, change: object = {}) => ({
  ...{ parent, why: 'Taken in', name: null, madeAt: '2026-05-04T09:30:00.000Z', recipe: initialRecipe() },
  ...change,
});
const mark = (change: object = {}) => ({
  ...{ key: 'tillerhand', name: 'Tillerhand', kind: 'logo', state: 'working', current: 1, working: 'a'.repeat(64) },
  notes: { source: 'By mail', permission: '', until: null },
  found: { sentence: 'A flat ground.', notes: [] },
  original: { path: 'marks/tillerhand/original.png', name: 'tillerhand.png' },
  former: [],
  revisions: [revision(null), revision(0, { why: 'Turned' })],
  master: { png: 'marks/tillerhand/master.png', svg: null },
  ...change,
});
const slot = (change: object = {}) => ({
  ...{ mark: 'tillerhand', file: 'tillerhand.png', original: 'walls/tillerhand.png', variant: null },
  ...{ shows: 'file', squeeze: 1, ...change },
});
const manifest = (change: object = {}) => ({
  ...{ format: BUNDLE_FORMAT, version: BUNDLE_VERSION, kind: 'brand', marks: [mark()] },
  brand: {
    ...{ name: 'Harrowmere', palette: [{ name: 'Green', hex: '#1f5a45' }], pattern: '{mark}', gradients: [] },
    ...{ startSet: null, standardLines: null, ownPurposes: [] },
  },
  grounds: [],
  placements: [],
  walls: [{ name: 'Partners', rule: USUAL_WALL, slots: [slot()] }],
  ...change,
});

describe('a manifest', () => {
  it('is read whole, with every recipe checked', () => {
    const read = readManifest(JSON.parse(JSON.stringify(manifest())));
    expect(read.marks[0].revisions.map((r) => [r.parent, r.why])).toEqual([
      [null, 'Taken in'],
      [0, 'Turned'],
    ]);
    expect(read.marks[0].revisions[0].recipe).toEqual(initialRecipe());
    expect(read.walls[0].rule).toEqual(USUAL_WALL);
  });
  it('of a later version is refused as that, whatever else it holds', () =>
    expect(() => readManifest({ version: BUNDLE_VERSION + 1, more: true })).toThrow(/is of version 2; this program/));

  const [one, other] = [mark(), mark({ name: 'Another' })];
  it.each<[string, object, RegExp]>([
    ['of another format', { format: 'zip' }, /at format/],
    ['with a field that nobody knows', { extra: 1 }, /unspecified keys: extra/],
    ['with two marks of one key', { marks: [one, other] }, /share a key/],
    ['of one mark with two', { kind: 'mark', marks: [one, mark({ key: 'b' })] }, /holds one mark/],
    ['with a key that is a path', { marks: [mark({ key: '../b' })] }, /at marks\[0\]\.key/],
    ['with a file outside', { marks: [mark({ original: { path: '../x.png', name: 'x' } })] }, /original\.path/],
    ['with a file of a drive', { marks: [mark({ master: { png: 'c:\\x.png', svg: null } })] }, /master\.png/],
    ['whose current revision is missing', { marks: [mark({ current: 2 })] }, /current revision of Tillerhand is not/],
    ['whose revisions go in circles', { marks: [mark({ revisions: [revision(0), revision(0)] })] }, /comes before/],
    [
      'with an odd recipe',
      { marks: [mark({ revisions: [revision(null, { recipe: {} })], current: 0 })] },
      /Revision 1/,
    ],
    ['with a sum that is none', { marks: [mark({ working: 'a' })] }, /at marks\[0\]\.working/],
    ['with a day that is none', { marks: [mark({ notes: { source: '', permission: '', until: 'soon' } })] }, /until/],
    [
      'whose wall names no mark of it',
      { walls: [{ name: 'W', rule: {}, slots: [slot({ mark: 'b' })] }] },
      /the mark b/,
    ],
    ['whose wall stands nowhere', { walls: [{ name: 'W', rule: { groundId: 'x' }, slots: [] }] }, /on the ground x/],
    ['whose wall is squeezed away', { walls: [{ name: 'W', rule: {}, slots: [slot({ squeeze: 0 })] }] }, /squeeze/],
    [
      'that lays no mark of it',
      { placements: [{ name: 'P', rule: { items: [{ mark: 'b' }] }, options: {} }] },
      /mark b/,
    ],
    ['with a colour that is none', { brand: { ...manifest().brand, palette: [{ name: 'x', hex: 'red' }] } }, /hex/],
    ['with NUL in a name', { brand: { ...manifest().brand, name: 'a\u0000' } }, /at brand\.name/],
  ])('%s is refused, saying where', (_, change, words) => {
    expect(() => readManifest(manifest(change))).toThrow(words);
    expect(() => readManifest(manifest(change))).toThrow(expect.objectContaining({ code: 'bundle/invalid' }));
  });
  it.each([null, 7, 'text', [], {}])('%j is none', (value) =>
    expect(() => readManifest(value)).toThrow(expect.objectContaining({ code: 'bundle/invalid' })),
  );
});

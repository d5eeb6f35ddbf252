import { describe, expect, it } from 'vitest';
import {
  addPlacementRequest,
  boardRequest,
  changeBrandRequest,
  changeMarkRequest,
  checkBody,
  goToRequest,
  lookRequest,
  makeMarkRequest,
  saveRecipeRequest,
  signRequest,
  surfaceRequest,
} from './requests';

const id = '3f0e8c1e-7c2b-4a51-9d1e-2f1f8b0a6c11';
const mark = { name: 'Odile', colour: '#102040' };
const typed = { lines: ['Odile'], typeface: 'caveat', sizePx: 200, spacing: 0, lineHeight: 1.2, align: 'left' };
const pen = { width: 4, thinning: 0.5, smoothing: 0.5, bySpeed: true };
const drawn = (strokes: unknown) => ({ ...mark, drawn: { strokes, pen } });
const box = { x: 10, y: 10, width: 80, height: 20 };
const signing = { markId: id, ink: 'blue', name: 'loan.pdf', places: [{ page: 1, box }] };
const surface = {
  ...{ kind: 'cylinder', colour: '#ffffff', part: 0.4, turnDeg: 0, tiltDeg: 10, rise: 0, lightDeg: 20, gloss: 0.3 },
};
const options = { format: 'png', quality: 90, keepsLocation: false, longEdgePx: null, pattern: '{mark}' };

describe('a request that fits', () => {
  it.each([
    ['a recipe', saveRecipeRequest, { basedOn: 3, why: 'Turned', recipe: {} }],
    ['a mark’s notes', changeMarkRequest, { basedOn: 1, notes: { source: '', permission: '', until: '2026-12-31' } }],
    ['a brand without a palette', changeBrandRequest, { basedOn: 1, startSet: null }],
    ['a board', boardRequest, { format: 'pdf', grounds: [{ name: 'Night', hex: '#101820', id: null }] }],
    ['typed lettering', makeMarkRequest, { ...mark, typed }],
    ['a drawn stroke', makeMarkRequest, drawn([[[1, 2, 0.5]]])],
    ['a signature on a page', signRequest, { ...signing, typed: [{ text: '4 May', page: 1, x: 10, y: 90 }] }],
    ['a cup', surfaceRequest, { markId: id, variant: 'colour', form: 'look', surface }],
    ['grounds to look at', lookRequest, { grounds: [id], corners: true }],
    ['a placement', addPlacementRequest, { name: 'Films', rule: {}, options }],
  ] as const)('%s is taken as it is', async (_, schema, body) =>
    expect(await checkBody(schema as never, body)).toEqual(body),
  );
});

describe('a request that does not fit', () => {
  it.each([
    ['without what it is based on', saveRecipeRequest, { why: 'x', recipe: {} }, /basedOn is a required/],
    ['based on more than the database counts', goToRequest, { basedOn: 2 ** 31, revision: 1 }, /basedOn/],
    ['with a number in words', goToRequest, { basedOn: '1', revision: 1 }, /basedOn must be a `number`/],
    ['with what nobody knows', saveRecipeRequest, { basedOn: 1, why: 'x', recipe: {}, admin: true }, /admin/],
    ['with a reason of spaces', saveRecipeRequest, { basedOn: 1, why: '  ', recipe: {} }, /why/],
    ['of a state that there is not', changeMarkRequest, { basedOn: 1, state: 'gone' }, /state/],
    ['until a month that is none', changeMarkRequest, until('2026-13-01'), /a day such as 2026-12-31/],
    ['until a day that is none', changeMarkRequest, until('2026-12-32'), /a day such as/],
    ['of a board on nothing', boardRequest, { format: 'png', grounds: [] }, /grounds/],
    ['of a stroke without points', makeMarkRequest, drawn([[]]), /strokes must be at most 600 lists/],
    ['of no stroke', makeMarkRequest, drawn([]), /a stroke to draw/],
    ['of a point far away', makeMarkRequest, drawn([[[1e6, 0, 1]]]), /strokes must be/],
    ['of a point without pressure', makeMarkRequest, drawn([[[1, 2]]]), /strokes must be/],
    ['of lettering too large', makeMarkRequest, { ...mark, typed: { ...typed, sizePx: 601 } }, /sizePx/],
    ['of a signature off every page', signRequest, { ...signing, places: [{ page: 0, box }] }, /page/],
    [
      'of a box turned inside out',
      signRequest,
      { ...signing, places: [{ page: 1, box: { ...box, width: -4 } }] },
      /width/,
    ],
    ['of a cup tilted over', surfaceRequest, cup({ tiltDeg: 61 }), /tiltDeg/],
    [
      'of a quality under the least',
      addPlacementRequest,
      { name: 'F', rule: {}, options: { ...options, quality: 39 } },
      /quality/,
    ],
    ['that is no object', goToRequest, null, /request does not fit/],
  ] as const)('%s is refused, saying what was expected', async (_, schema, body, words) => {
    const refused = checkBody(schema as never, body);
    await expect(refused).rejects.toThrow(words);
    await expect(refused).rejects.toMatchObject({ code: 'request/invalid' });
  });
  it('tells all that is wrong at once', async () =>
    expect(checkBody(goToRequest, {})).rejects.toThrow(/basedOn is a required field; revision is a required field/));
});

function until(day: string) {
  return { basedOn: 1, notes: { source: '', permission: '', until: day } };
}
function cup(change: object) {
  return { markId: id, variant: 'colour', form: 'look', surface: { ...surface, ...change } };
}

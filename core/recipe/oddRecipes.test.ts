import { expect, it } from 'vitest';
import { either, disc, drawMark, onGround, ring } from '../../tests/support/pictures';
import { oddRecipe } from '../../tests/support/oddRecipes';
import { isCoreError } from '../errors';
import { seededRandom } from '../seededRandom';
import { ordersOf } from './fileOrder';
import { prepareFile } from './makeFile';
import { initialRecipe, readRecipe } from './recipe';
import { makeVariant, runStages } from './runRecipe';

const mark = drawMark(90, 70, either(ring(40, 35, 30, 12), disc(78, 12, 7)), [31, 90, 69]);
const picture = onGround(mark, [250, 248, 240]);
const known = () => runStages(picture, initialRecipe().stages, { pictureKey: 'known' }).master.raster.data.slice();
/** Files of more pixels than this are left to the tests of budgets. */
const MOST_TEST_SIDE = 400;

it('hundreds of odd recipes are run or refused in words, and leave the next one’s pixels as they were', () => {
  const random = seededRandom(20_261);
  const before = known();
  const counts = { ran: 0, refused: 0 };
  for (let n = 0; n < 600; n++) {
    const odd = oddRecipe(random);
    try {
      const recipe = readRecipe(odd);
      const variant = makeVariant(picture, recipe, recipe.variants[0], { pictureKey: 'odd' });
      const line = recipe.files.lines[0];
      const px = Object.entries(line.size.params).filter(([k]) => /px$|^mm|dpi|ppi/i.test(k));
      if (px.every(([, v]) => Number(v) <= MOST_TEST_SIDE)) prepareFile(variant, ordersOf(line)[0]);
      counts.ran++;
    } catch (error) {
      if (!isCoreError(error)) throw new Error(`Recipe ${n} broke: ${JSON.stringify(odd)}`, { cause: error });
      expect(error.message.length).toBeGreaterThan(10);
      counts.refused++;
    }
    if (n % 150 === 0) expect(Buffer.compare(known(), before)).toBe(0);
  }
  expect(Buffer.compare(known(), before)).toBe(0);
  // Neither kind may be missing, else the test would say nothing.
  expect(counts.ran).toBeGreaterThan(40);
  expect(counts.refused).toBeGreaterThan(200);
}, 120_000);

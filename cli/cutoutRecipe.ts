import { CoreError } from '../core/errors';
import type { Anchor } from '../core/params';
import { type Recipe, initialRecipe, readRecipe } from '../core/recipe/recipe';
import { MOST_GROUNDS, MOST_LEVEL, MOST_TOLERANCE } from '../core/stages/limits';
import { readInput, readNumber } from './command';

/**
 * The recipe that a command line asks for: the saved one that it names or the usual one, with its options laid over it.
 * @throws CoreError 'cli/usage' for an option out of range, 'recipe/invalid' or 'file/not-readable' naming the recipe's file
 */
export const recipeWith = (values: Given, anchors: readonly Anchor[]): Recipe =>
  withOptions(values.recipe ? loadRecipe(values.recipe) : initialRecipe(), values, anchors);

function loadRecipe(path: string): Recipe {
  const text = new TextDecoder().decode(readInput(path));
  try {
    return readRecipe(JSON.parse(text));
  } catch (cause) {
    throw new CoreError(
      'recipe/invalid',
      `${path} is not a recipe: ${(cause as Error).message}`,
      { file: path },
      { cause },
    );
  }
}

function readColour(text: string): string {
  const hex = text.startsWith('#') ? text : `#${text}`;
  if (!/^#[0-9a-f]{6}$/i.test(hex))
    throw new CoreError('cli/usage', `--ground takes a colour such as #f4efe4, got "${text}".`);
  return hex.toLowerCase();
}

export interface Given {
  recipe?: string;
  ground?: string[];
  'clean-up'?: string;
  tolerance?: string;
  softness?: string;
  choke?: string;
  level?: string;
  pen?: string;
  weight?: string;
  'keep-lines'?: boolean;
}

function withOptions(recipe: Recipe, values: Given, anchors: readonly Anchor[]): Recipe {
  const cutOut = { ...recipe.stages.cutOut, areas: [...recipe.stages.cutOut.areas, ...anchors] };
  if (values.tolerance !== undefined) cutOut.tolerance = readNumber(values.tolerance, 'tolerance', 0, MOST_TOLERANCE);
  if (values.ground) cutOut.ground = values.ground.map(readColour);
  if (cutOut.ground.length > MOST_GROUNDS)
    throw new CoreError(
      'cli/usage',
      `--ground can be given ${MOST_GROUNDS} times at most, got ${cutOut.ground.length}.`,
    );
  if (values['clean-up'] !== undefined) cutOut.cleanUp = readNumber(values['clean-up'], 'clean-up', 0, 2);
  if (values.softness !== undefined) cutOut.softness = readNumber(values.softness, 'softness', 0, 8);
  if (values.choke !== undefined) cutOut.choke = readNumber(values.choke, 'choke', -5, 5);
  if (values.level !== undefined)
    cutOut.level =
      values.level === 'auto' ? null : Math.min(MOST_LEVEL, Math.max(0.02, readNumber(values.level, 'level', 0, 1)));
  if (values.weight !== undefined) cutOut.weight = readNumber(values.weight, 'weight', -6, 6);
  if (values['keep-lines']) cutOut.keepLines = true;
  if (values.pen !== undefined) {
    if (values.pen !== 'solid' && values.pen !== 'pressure')
      throw new CoreError('cli/usage', `--pen takes solid or pressure, got "${values.pen}".`);
    cutOut.pen = values.pen;
  }
  return { ...recipe, stages: { ...recipe.stages, cutOut } };
}

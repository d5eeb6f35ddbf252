import { CoreError } from '../core/errors';
import { LEAST_LEVEL, MOST_LEVEL } from '../core/limits';
import { type Anchor, checkValues } from '../core/params';
import { type Recipe, initialRecipe, readRecipe } from '../core/recipe/recipe';
import { cutOutParams } from '../core/stages/cutOutParams';
import { readInput, readNumber } from './command';
import { penSettings, withPen } from './penSettings';
import { type Given, readSettings } from './settingOptions';

/**
 * The recipe that a command line asks for: the saved one that it names or the usual one, with its options laid over it.
 * @throws CoreError 'cli/usage' for an option out of range, 'recipe/invalid' or 'file/not-readable' naming the recipe's
 *   file
 */
export function recipeWith(given: Given, anchors: readonly Anchor[]): Recipe {
  const recipe = typeof given.recipe === 'string' ? loadRecipe(given.recipe) : initialRecipe();
  const { version, ...before } = recipe.stages.cutOut;
  const settings = {
    ...before,
    areas: [...before.areas, ...anchors],
    ...readSettings(cutOutParams, { ...given, level: shareOf(given.level) }),
  };
  const cutOut = { version, ...checkValues(cutOutParams, settings, 'cutOut') } as Recipe['stages']['cutOut'];
  const asked = { ...recipe, stages: { ...recipe.stages, cutOut } };
  const { pen } = readSettings(penSettings, given);
  return pen === undefined ? asked : withPen(asked, pen);
}

// Any share of full ink is taken; the very ends, at which all or nothing would be kept, are drawn in.
function shareOf(level: Given[string]): Given[string] {
  if (level === undefined || level === 'auto') return level;
  return String(Math.min(MOST_LEVEL, Math.max(LEAST_LEVEL, readNumber(String(level), 'level', 0, 1))));
}

/** @throws CoreError 'recipe/invalid' or 'file/not-readable' naming the file */
export function loadRecipe(path: string): Recipe {
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

import { CoreError } from '../errors';

type Raw = Record<string, unknown>;

/**
 * Steps from one recipe version to the next: `upgrades[1]` makes a version 2 recipe of a version 1 recipe.
 * A definition that changes meaning raises the recipe's version and adds its step here. Steps are never edited.
 */
const upgrades: Record<number, (recipe: Raw) => Raw> = {};

/**
 * A recipe of any earlier version as one of the present version. The caller's object is not changed.
 * @param steps   for tests; the program's own steps otherwise
 * @throws CoreError 'recipe/invalid' without a version, 'recipe/too-new' when it is from the future
 */
export function upgradeRecipe(value: unknown, target = 1, steps = upgrades): Raw {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new CoreError('recipe/invalid', 'A recipe is a JSON object.');
  let recipe = value as Raw;
  if (!Number.isInteger(recipe.version) || (recipe.version as number) < 1)
    throw new CoreError(
      'recipe/invalid',
      `A recipe needs a version from 1 to ${target}, got ${JSON.stringify(recipe.version)}.`,
    );
  if ((recipe.version as number) > target)
    throw new CoreError(
      'recipe/too-new',
      `The recipe is of version ${recipe.version}; this program reads up to ${target}.`,
      { version: recipe.version },
    );
  while ((recipe.version as number) < target) {
    const from = recipe.version as number;
    recipe = { ...steps[from](recipe), version: from + 1 };
  }
  return recipe;
}

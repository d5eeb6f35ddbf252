import { CoreError } from '../core/errors';
import { checkValues, metaOf } from '../core/params';
import type { Part } from '../core/recipe/recipe';
import { sizes } from '../core/sizes';
import { type Given, helpOf, optionsOf, readSettings } from './settingOptions';

/** Sizes that a command line can ask for: each is named by the option of its first setting. */
const offered = sizes.all
  .map((size) => ({ size, key: metaOf(Object.values(size.params)[0]).option }))
  .filter((s): s is typeof s & { key: string } => s.key !== undefined);

const fields = Object.assign({}, ...offered.map(({ size }) => size.params));

export const sizeOptions = optionsOf(Object.assign({}, ...offered.map(({ size }) => size.params)));
export const sizeHelp = helpOf(fields);

/**
 * The size that options ask for, or null where they ask for none.
 * @throws CoreError 'cli/usage' for two sizes at once, or a setting of a size that was not asked for
 */
export function readSize(given: Given): Part | null {
  const asked = offered.filter(({ key }) => given[key] !== undefined);
  if (asked.length > 1) {
    throw new CoreError('cli/usage', `One size at a time: --${asked.map((a) => a.key).join(' or --')}.`);
  }
  const known = asked[0] ? optionsOf(asked[0].size.params) : {};
  const stray = Object.keys(sizeOptions).find((option) => given[option] !== undefined && !(option in known));
  if (stray) {
    const home = offered.find(({ size }) => stray in optionsOf(size.params));
    throw new CoreError('cli/usage', `--${stray} goes with --${home?.key}.`);
  }
  if (!asked[0]) return null;
  const { id, params } = asked[0].size;
  return { id, params: checkValues(params, readSettings(params, given), id) };
}

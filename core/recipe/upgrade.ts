import { CoreError } from '../errors';
import { type Values, checkValues } from '../params';
import type { StageDefinition } from '../stages/stage';
import { RECIPE_VERSION } from './version';

type Raw = Record<string, unknown>;

/**
 * Steps from one recipe version to the next: `upgrades[1]` makes a version 2 recipe of a version 1 recipe. Steps are
 * never edited once recipes have been stored by them. What a step does not know it hands on, so that it is refused by
 * name.
 */
const upgrades: Record<number, (recipe: Raw) => Raw> = { 1: fromVersion1, 2: fromVersion2 };

/**
 * A recipe of any earlier version as one of the present version. The caller's object is not changed.
 * @param steps   for tests; the program's own steps otherwise
 * @throws CoreError 'recipe/invalid' without a version, 'recipe/too-new' when it is from the future
 */
export function upgradeRecipe(value: unknown, target: number = RECIPE_VERSION, steps = upgrades): Raw {
  if (!isObject(value)) throw new CoreError('recipe/invalid', 'A recipe is a JSON object.');
  let recipe = value;
  const version = recipe.version as number;
  if (!Number.isInteger(version) || version < 1)
    throw new CoreError(
      'recipe/invalid',
      `A recipe needs a version from 1 to ${target}, got ${JSON.stringify(recipe.version)}.`,
    );
  if (version > target)
    throw new CoreError('recipe/too-new', `The recipe is of version ${version}; this program reads up to ${target}.`, {
      version,
    });
  for (let v = version; v < target; v++) recipe = { ...steps[v](recipe), version: v + 1 };
  return recipe;
}

/** Stage settings of recipes of version 1 had no version of their own: these are the ones they were written for. */
const STAGES_OF_VERSION_1 = 2;

function fromVersion1(recipe: Raw): Raw {
  const { stages, variants, files } = recipe;
  return {
    ...recipe,
    stages: mapValues(stages, (settings) =>
      isObject(settings) ? { version: STAGES_OF_VERSION_1, ...settings } : settings,
    ),
    variants: mapList(variants, ({ surround, ...variant }) => ({
      ...variant,
      // "None" was a surround among others.
      surrounds: surround === undefined || (isObject(surround) && surround.id === 'none') ? [] : [surround],
      casts: [],
    })),
    files: isObject(files) ? { ...files, lines: mapList(files.lines, lineFromVersion1) } : files,
  };
}

function lineFromVersion1({ widthPx, paddingPct, format, ...line }: Raw): Raw {
  // Icons were square by their purpose; an exact box says so itself.
  const size =
    line.purpose === 'icon'
      ? { id: 'box', params: { widthPx, heightPx: widthPx, paddingPct, align: 'centre' } }
      : { id: 'width', params: { widthPx, paddingPct } };
  return { ...line, size, format: { id: format, params: {} } };
}

/** Whether ink shows solid was said once for the whole mark; now each variant says it, and shows what it showed. */
function fromVersion2(recipe: Raw): Raw {
  const { stages, variants, files } = recipe;
  const { cutOut } = isObject(stages) ? stages : {};
  if (!isObject(cutOut)) return { ...recipe, files: withoutClearPairs(files) };
  const { pen = 'pressure', ...rest } = cutOut;
  const own = (fill: Raw): Raw => {
    const isMaster = fill.id === 'asIs';
    const params = isObject(fill.params) ? fill.params : {};
    const differs = isMaster ? pen === 'solid' : pen === 'pressure' && INK_FILLS.includes(String(fill.id));
    return differs ? { ...fill, params: { ...params, pen } } : fill;
  };
  return {
    ...recipe,
    stages: { ...(stages as Raw), cutOut: rest },
    variants:
      cutOut.way === 'paper'
        ? mapList(variants, (v) => ({ ...v, fill: isObject(v.fill) ? own(v.fill) : v.fill }))
        : variants,
    files: withoutClearPairs(files),
  };
}

/** Fills of version 2 that showed the master's own alpha. */
const INK_FILLS = ['oneColour', 'gradient'];

const withoutClearPairs = (files: unknown): unknown =>
  isObject(files) ? { ...files, lines: mapList(files.lines, lineOfVersion3) } : files;

/** The colours of a mask pair were transparent if somebody chose so, which no receiver of pairs can read. */
export function lineOfVersion3(line: Raw): Raw {
  if (line.purpose !== 'maskPair' || !isObject(line.purposeParams)) return line;
  const { colours: _, ...purposeParams } = line.purposeParams;
  return { ...line, purposeParams };
}

/**
 * A stage's stored settings for the stage as it is now: upgraded step by step from the version that they carry.
 * @throws CoreError 'recipe/too-new' for settings from the future, 'params/invalid' otherwise
 */
export function readStageSettings(stage: StageDefinition, value: unknown): Values<object> & { version: number } {
  const { version = stage.version, ...stored } = (value ?? {}) as Raw;
  if (!Number.isInteger(version) || (version as number) < 1)
    throw new CoreError(
      'recipe/invalid',
      `stages.${stage.id}: the version is a whole number, got ${JSON.stringify(version)}.`,
    );
  if ((version as number) > stage.version)
    throw new CoreError(
      'recipe/too-new',
      `The settings of ${stage.title} are of version ${version}; this program reads up to ${stage.version}.`,
      { stage: stage.id, version },
    );
  let params = stored;
  for (let v = version as number; v < stage.version; v++) params = stage.upgrades?.[v]?.(params) ?? params;
  return { version: stage.version, ...checkValues(stage.params, params, stage.id) };
}

const isObject = (value: unknown): value is Raw => typeof value === 'object' && value !== null && !Array.isArray(value);
const mapList = (value: unknown, change: (item: Raw) => unknown): unknown =>
  Array.isArray(value) ? value.map((item) => (isObject(item) ? change(item) : item)) : value;
const mapValues = (value: unknown, change: (item: unknown) => unknown): unknown =>
  isObject(value) ? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, change(v)])) : value;

import { CoreError } from '../errors';
import { fills } from '../fills';
import { formats } from '../formats';
import { type Fields, checkValues, initialValues } from '../params';
import { purposes } from '../purposes';
import { type StageValues, stageIds, stages } from '../stages';
import { surrounds } from '../surrounds';
import { upgradeRecipe } from './upgrade';

export const RECIPE_VERSION = 1;

/** A choice from a registry with its settings. */
export interface Part {
  readonly id: string;
  readonly params: Record<string, unknown>;
}

export interface Variant {
  readonly id: string;
  readonly name: string;
  readonly fill: Part;
  readonly surround: Part;
}

/** One row of what to deliver. */
export interface SizeLine {
  readonly id: string;
  readonly variant: string;
  readonly purpose: string;
  readonly widthPx: number;
  readonly paddingPct: number;
  readonly format: string;
}

/** Everything a person has decided about a mark: plain values, nothing baked in. */
export interface Recipe {
  readonly version: typeof RECIPE_VERSION;
  readonly stages: StageValues;
  readonly variants: readonly Variant[];
  readonly files: { readonly pattern: string; readonly lines: readonly SizeLine[] };
}

export const DEFAULT_PATTERN = '{mark}-{variant}-{width}';
const LIMITS = { variants: 40, lines: 200, name: 80, pattern: 120 };

/** Colour, black and reversed are there from the start. */
export const initialVariants = (): Variant[] => [
  { id: 'colour', name: 'Colour', fill: { id: 'asIs', params: {} }, surround: { id: 'none', params: {} } },
  {
    id: 'black',
    name: 'Black',
    fill: { id: 'oneColour', params: { colour: '#000000', insides: 'open' } },
    surround: { id: 'none', params: {} },
  },
  {
    id: 'reversed',
    name: 'Reversed',
    fill: { id: 'oneColour', params: { colour: '#ffffff', insides: 'open' } },
    surround: { id: 'none', params: {} },
  },
];

export function initialRecipe(): Recipe {
  const variants = initialVariants();
  const web = purposes.get('web');
  return {
    version: RECIPE_VERSION,
    stages: Object.fromEntries(
      stageIds.map((id) => [id, initialValues(stages.get(id).params)]),
    ) as unknown as StageValues,
    variants,
    files: {
      pattern: DEFAULT_PATTERN,
      lines: variants.map((v) => ({
        id: `${v.id}-web`,
        variant: v.id,
        purpose: 'web',
        widthPx: web.widthPx,
        paddingPct: web.paddingPct,
        format: 'png',
      })),
    },
  };
}

/**
 * A stored or given recipe, upgraded to the present version and checked whole.
 * @throws CoreError 'recipe/too-new', 'recipe/invalid' or 'params/invalid', saying where and what was expected
 */
export function readRecipe(value: unknown): Recipe {
  const raw = upgradeRecipe(value);
  const checked = Object.fromEntries(
    stageIds.map((id) => [id, checkValues(stages.get(id).params, asObject(raw.stages, 'stages')[id], id)]),
  );
  const variants = asList(raw.variants, 'variants', LIMITS.variants).map(readVariant);
  const ids = new Set(variants.map((v) => v.id));
  if (ids.size !== variants.length) throw new CoreError('recipe/invalid', 'Two variants share an id.');
  const files = asObject(raw.files, 'files');
  const lines = asList(files.lines, 'files.lines', LIMITS.lines).map((line, k) => readLine(line, k, ids));
  return {
    version: RECIPE_VERSION,
    stages: checked as unknown as StageValues,
    variants,
    files: { pattern: asText(files.pattern, 'files.pattern', LIMITS.pattern), lines },
  };
}

function readVariant(value: unknown, k: number): Variant {
  const where = `variants[${k}]`;
  const v = asObject(value, where);
  return {
    id: asText(v.id, `${where}.id`, 60),
    name: asText(v.name, `${where}.name`, LIMITS.name),
    fill: readPart(v.fill, `${where}.fill`, (id) => fills.get(id).params),
    surround: readPart(v.surround, `${where}.surround`, (id) => surrounds.get(id).params),
  };
}

function readPart(value: unknown, where: string, fieldsOf: (id: string) => Fields): Part {
  const part = asObject(value, where);
  const id = asText(part.id, `${where}.id`, 60);
  return { id, params: checkValues(fieldsOf(id), part.params, where) };
}

function readLine(value: unknown, k: number, variants: ReadonlySet<string>): SizeLine {
  const where = `files.lines[${k}]`;
  const line = asObject(value, where);
  const variant = asText(line.variant, `${where}.variant`, 60);
  if (!variants.has(variant))
    throw new CoreError('recipe/invalid', `${where}: there is no variant "${variant}".`, { where });
  const purpose = purposes.get(asText(line.purpose, `${where}.purpose`, 60)).id;
  const format = formats.get(asText(line.format, `${where}.format`, 60)).id;
  return {
    id: asText(line.id, `${where}.id`, 80),
    variant,
    purpose,
    format,
    widthPx: asNumber(line.widthPx, `${where}.widthPx`, 8, 16384, true),
    paddingPct: asNumber(line.paddingPct, `${where}.paddingPct`, 0, 40, false),
  };
}

function asObject(value: unknown, where: string): Record<string, unknown> {
  if (typeof value === 'object' && value !== null && !Array.isArray(value)) return value as Record<string, unknown>;
  throw new CoreError('recipe/invalid', `${where}: expected an object, got ${JSON.stringify(value)?.slice(0, 60)}.`, {
    where,
  });
}

function asList(value: unknown, where: string, most: number): unknown[] {
  if (Array.isArray(value) && value.length <= most) return value;
  throw new CoreError('recipe/invalid', `${where}: expected a list of at most ${most}.`, { where });
}

function asText(value: unknown, where: string, most: number): string {
  if (typeof value === 'string' && value.trim() !== '' && value.length <= most) return value;
  throw new CoreError(
    'recipe/invalid',
    `${where}: expected a text of 1 to ${most} characters, got ${JSON.stringify(value)?.slice(0, 60)}.`,
    { where },
  );
}

function asNumber(value: unknown, where: string, min: number, max: number, isWhole: boolean): number {
  const fits = typeof value === 'number' && value >= min && value <= max && (!isWhole || Number.isInteger(value));
  if (fits) return value;
  throw new CoreError(
    'recipe/invalid',
    `${where}: expected a ${isWhole ? 'whole ' : ''}number from ${min} to ${max}, got ${JSON.stringify(value)}.`,
    { where },
  );
}

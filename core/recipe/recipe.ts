import * as yup from 'yup';
import { casts } from '../casts';
import { CoreError } from '../errors';
import { fills } from '../fills';
import { formats } from '../formats';
import { checkValues, initialValues } from '../params';
import { purposes } from '../purposes';
import type { Part } from '../purposes/purpose';
import type { Registry, WithParams } from '../registry';
import { sizes } from '../sizes';
import { type StageValues, stageIds, stages } from '../stages';
import { surrounds } from '../surrounds';
import { readStageSettings, upgradeRecipe } from './upgrade';
import { RECIPE_VERSION } from './version';

export type { Part };

export interface Variant {
  readonly id: string;
  readonly name: string;
  readonly fill: Part;
  readonly surrounds: readonly Part[];
  readonly casts: readonly Part[];
}

/** One row of what to deliver. */
export interface SizeLine {
  readonly id: string;
  readonly variant: string;
  readonly purpose: string;
  /** Settings of a purpose that has any. */
  readonly purposeParams?: Part['params'];
  /** Nobody typed the size: it is made smaller wherever it would enlarge the mark. */
  readonly fitted?: true;
  /** A name that a receiver dictates; the pattern's without one. */
  readonly name?: string;
  readonly size: Part;
  readonly format: Part;
}

/** Everything a person has decided about a mark: plain values, nothing baked in. */
export interface Recipe {
  readonly version: typeof RECIPE_VERSION;
  readonly stages: StageValues;
  readonly variants: readonly Variant[];
  readonly files: { readonly pattern: string; readonly lines: readonly SizeLine[] };
}

export const DEFAULT_PATTERN = '{mark}-{variant}-{width}';
const LIMITS = { variants: 40, parts: 12, lines: 200, id: 80, name: 80, pattern: 120, fileName: 200 };

/** A part of a variant or line with the settings that its definition starts with. */
export const partOf = (registry: Registry<WithParams>, id: string, params: object = {}): Part => ({
  id,
  params: { ...initialValues(registry.get(id).params), ...params },
});

/** Colour, black and reversed are there from the start. */
export const initialVariants = (): Variant[] => [
  variantOf('colour', 'Colour', partOf(fills, 'asIs')),
  variantOf('black', 'Black', partOf(fills, 'oneColour', { colour: '#000000' })),
  variantOf('reversed', 'Reversed', partOf(fills, 'oneColour', { colour: '#ffffff' })),
];

export const variantOf = (id: string, name: string, fill: Part): Variant => ({
  id,
  name,
  fill,
  surrounds: [],
  casts: [],
});

export function initialRecipe(): Recipe {
  const variants = initialVariants();
  const web = purposes.get('web');
  return {
    version: RECIPE_VERSION,
    stages: initialStages(),
    variants,
    files: {
      pattern: DEFAULT_PATTERN,
      lines: variants.map((v) => lineOf(startLineId(v.id, web.id), v.id, web)),
    },
  };
}

/** The line with a size that somebody asked for: it stays whatever becomes of the mark. */
export function typedLine({ fitted: _, ...line }: SizeLine): SizeLine {
  return line;
}

/** What a line is named that was there from the start. */
export const startLineId = (variant: string, purpose: string) => `${variant}-${purpose}`;

/** A size line as a purpose starts it. */
export const lineOf = (id: string, variant: string, purpose: { id: string; size: Part; format: Part }): SizeLine => ({
  id,
  variant,
  purpose: purpose.id,
  ...paramsOfPurpose(purpose.id),
  fitted: true,
  size: purpose.size,
  format: purpose.format,
});

function paramsOfPurpose(id: string, given: object = {}, where = id): Pick<SizeLine, 'purposeParams'> {
  const { params } = purposes.get(id);
  const purposeParams = checkValues(params, given, where);
  return Object.keys(params).length > 0 ? { purposeParams } : {};
}

function initialStages(): StageValues {
  const settings = stages.all.map((s) => [s.id, { version: s.version, ...initialValues(s.params) }]);
  return Object.fromEntries(settings) as unknown as StageValues;
}

const text = (most: number) =>
  yup
    .string()
    .typeError(`expected a text of 1 to ${most} characters`)
    .required(`expected a text of 1 to ${most} characters`)
    .max(most, `expected a text of 1 to ${most} characters`)
    .matches(/\S/, `expected a text of 1 to ${most} characters`);

/** An object of these keys and no others, any other named. */
export const only = <S extends yup.ObjectShape>(shape: S) =>
  yup
    .object(shape)
    .typeError('expected an object')
    .required('expected an object')
    .noUnknown(true, ({ unknown }: { unknown: string }) => `there is no "${unknown.split(',')[0]}"`);

const list = <T extends yup.AnySchema>(of: T, most: number) =>
  yup
    .array()
    .typeError(`expected a list of at most ${most}`)
    .required(`expected a list of at most ${most}`)
    .max(most, `expected a list of at most ${most}`)
    .of(of);

/** A part's shape; which ids there are and what settings each takes is looked up where it is read. */
const part = only({
  id: text(LIMITS.id),
  params: yup.object().typeError('expected an object of settings').default({}),
});

const variantSchema = only({
  id: text(LIMITS.id),
  name: text(LIMITS.name),
  fill: part,
  surrounds: list(part, LIMITS.parts),
  casts: list(part, LIMITS.parts),
});

const lineSchema = only({
  id: text(LIMITS.id),
  variant: text(LIMITS.id),
  purpose: text(LIMITS.id),
  purposeParams: yup.object().typeError('expected an object of settings'),
  name: yup
    .string()
    .typeError('expected a file name')
    .max(LIMITS.fileName, `expected at most ${LIMITS.fileName} characters`),
  fitted: yup.boolean().oneOf([true], 'expected true').typeError('expected true'),
  size: part,
  format: part,
});

const recipeSchema = only({
  version: yup.number().required(),
  stages: only(
    Object.fromEntries(stageIds.map((id) => [id, yup.object().typeError('expected an object of settings')])),
  ),
  variants: list(variantSchema, LIMITS.variants),
  files: only({ pattern: text(LIMITS.pattern), lines: list(lineSchema, LIMITS.lines) }),
});

/**
 * A stored or given recipe, upgraded to the present version and checked whole. Stages that it has no settings for start
 * with their own; what is not known is refused by name.
 * @throws CoreError 'recipe/too-new', 'recipe/invalid', 'registry/unknown' or 'params/invalid', saying where and what
 *   was expected
 */
export function readRecipe(value: unknown): Recipe {
  const raw = checkShape(recipeSchema, upgradeRecipe(value), '') as unknown as Recipe;
  const settings = stages.all.map((s) => [s.id, readStageSettings(s, (raw.stages as Record<string, unknown>)[s.id])]);
  const variants = raw.variants.map((v, k) => readVariantParts(v, `variants[${k}]`));
  const ids = new Set(variants.map((v) => v.id));
  if (ids.size !== variants.length) throw new CoreError('recipe/invalid', 'Two variants share an id.');
  return {
    version: RECIPE_VERSION,
    stages: Object.fromEntries(settings) as unknown as StageValues,
    variants,
    files: { pattern: raw.files.pattern, lines: raw.files.lines.map((line, k) => readLineParts(line, k, ids)) },
  };
}

/**
 * A variant's definition as a file or command gives it: surrounds and casts may be left out.
 * @throws CoreError as `readRecipe`
 */
export function readVariant(value: unknown, where = 'variant'): Variant {
  const given = typeof value === 'object' && value !== null ? value : {};
  const whole = { id: 'own', name: 'Own', surrounds: [], casts: [], ...given };
  return readVariantParts(checkShape(variantSchema, whole, where) as unknown as Variant, where);
}

function checkShape(schema: yup.AnySchema, value: unknown, where: string): unknown {
  try {
    return schema.validateSync(value, { strict: true, abortEarly: true });
  } catch (cause) {
    if (!(cause instanceof yup.ValidationError)) throw cause;
    const at = [where, cause.path].filter(Boolean).join('.') || 'recipe';
    throw new CoreError('recipe/invalid', `${at}: ${cause.message}.`, { where: at });
  }
}

function readVariantParts(v: Variant, where: string): Variant {
  return {
    id: v.id,
    name: v.name,
    fill: readPart(fills, v.fill, `${where}.fill`),
    surrounds: v.surrounds.map((p, k) => readPart(surrounds, p, `${where}.surrounds[${k}]`)),
    casts: v.casts.map((p, k) => readPart(casts, p, `${where}.casts[${k}]`)),
  };
}

/** @throws CoreError 'registry/unknown' or 'params/invalid' */
export const readPart = (registry: Registry<WithParams>, { id, params }: Part, where: string): Part => ({
  id,
  params: checkValues(registry.get(id).params, params, where),
});

function readLineParts(line: SizeLine, k: number, variants: ReadonlySet<string>): SizeLine {
  const where = `files.lines[${k}]`;
  if (!variants.has(line.variant)) {
    throw new CoreError('recipe/invalid', `${where}: there is no variant "${line.variant}".`, { where });
  }
  return {
    id: line.id,
    variant: line.variant,
    purpose: purposes.get(line.purpose).id,
    ...paramsOfPurpose(line.purpose, line.purposeParams, `${where}.purposeParams`),
    ...(line.fitted ? { fitted: true } : {}),
    ...(line.name ? { name: line.name } : {}),
    size: readPart(sizes, line.size, `${where}.size`),
    format: readPart(formats, line.format, `${where}.format`),
  };
}

import { lineOfVersion3 } from '../core/recipe/upgrade';
import { dirname, resolve } from 'node:path';
import * as yup from 'yup';
import { CoreError } from '../core/errors';
import { formats } from '../core/formats';
import { checkValues } from '../core/params';
import { purposes } from '../core/purposes';
import { DEFAULT_PATTERN, type Part, only, readPart } from '../core/recipe/recipe';
import { sizes } from '../core/sizes';
import { readJsonFile } from './readJsonFile';

export interface PlanMark {
  readonly name: string;
  /** Path of its original, from where the command is run. */
  readonly original: string;
  /** Its recipe, or the path of one; the program's own proposal otherwise. */
  readonly recipe?: string | object;
}

export interface PlanLine {
  /** The name of the mark that it is for; all of them without one. */
  readonly mark?: string;
  /** A variant of the recipe by its name or id, or a definition. */
  readonly variant: string | object;
  readonly size: Part;
  readonly format: Part;
  readonly purpose: Part;
  /** A name that a receiver dictates, or a pattern of its own; the plan's pattern otherwise. */
  readonly name?: string;
}

export interface Plan {
  readonly brand: string;
  readonly pattern: string;
  readonly marks: readonly PlanMark[];
  readonly lines: readonly PlanLine[];
}

const text = (most = 200) =>
  yup.string().typeError('expected a text').min(1, 'expected a text').max(most, `expected at most ${most} characters`);
const isObject = (v: unknown): v is object => typeof v === 'object' && v !== null && !Array.isArray(v);
/** A word, or an object that is checked where it is used. */
const either = (words: string) =>
  yup.mixed().test('either', `expected ${words}`, (v) => v === undefined || typeof v === 'string' || isObject(v));
const part = only({
  id: text(80).required('expected the id of one'),
  params: yup.object().typeError('expected an object of settings'),
}).default(undefined);

const schema = only({
  brand: text(),
  pattern: text(120),
  marks: yup
    .array()
    .typeError('expected a list of marks')
    .required('expected a list of marks')
    .min(1, 'expected at least one mark')
    .max(200, 'expected at most 200 marks')
    .of(
      only({
        name: text(120).required('expected a name'),
        original: text(4096).required('expected the path of a file'),
        recipe: either('the path of a recipe, or one'),
      }),
    ),
  lines: yup
    .array()
    .typeError('expected a list of lines')
    .required('expected a list of lines')
    .min(1, 'expected at least one line')
    .max(2000, 'expected at most 2000 lines')
    .of(
      only({
        mark: text(120),
        variant: either('a variant’s name, or a definition').required('expected a variant'),
        size: part.required('expected a size such as { "id": "width", "params": { "widthPx": 1200 } }'),
        format: part.required('expected a format such as { "id": "png" }'),
        purpose: either('a purpose’s id, or { id, params }'),
        name: text(),
      }),
    ),
});

/**
 * A plan of files. Paths in it are relative to it.
 * @throws CoreError 'cli/usage' saying where and what was expected, 'registry/unknown', 'params/invalid'
 */
export function readPlan(path: string): Plan {
  const raw = readJsonFile(path);
  let plan: { brand?: string; pattern?: string; marks: PlanMark[]; lines: Record<string, unknown>[] };
  try {
    plan = schema.validateSync(raw, { strict: true, abortEarly: true }) as never;
  } catch (cause) {
    if (!(cause instanceof yup.ValidationError)) throw cause;
    const at = cause.path ? `${cause.path}: ` : '';
    throw new CoreError('cli/usage', `${path}: ${at}${cause.message}.`, {}, { cause });
  }
  const from = (file: string) => resolve(dirname(path), file);
  const marks = plan.marks.map((mark) => ({
    ...mark,
    original: from(mark.original),
    ...(typeof mark.recipe === 'string' ? { recipe: from(mark.recipe) } : {}),
  }));
  const names = new Set(marks.map((m) => m.name));
  if (names.size !== marks.length) throw new CoreError('cli/usage', `${path}: two marks share a name.`);
  const lines = plan.lines.map((line, k) => readLine(line, `lines[${k}]`, names));
  return { brand: plan.brand ?? '', pattern: plan.pattern ?? DEFAULT_PATTERN, marks, lines };
}

/** Plans from before may say what becomes of a mask pair's colours: both files are opaque now. */
const knownParams = (purpose: string, params: object): object =>
  (lineOfVersion3({ purpose, purposeParams: params }).purposeParams as object) ?? params;

function readLine(line: Record<string, unknown>, where: string, marks: ReadonlySet<string>): PlanLine {
  const {
    mark,
    variant,
    name,
    purpose = 'web',
  } = line as { mark?: string; variant: string; name?: string } & {
    purpose?: string | Part;
  };
  if (mark !== undefined && !marks.has(mark))
    throw new CoreError('cli/usage', `${where}: there is no mark "${mark}"; there are ${[...marks].join(', ')}.`);
  const { id, params = {} } = typeof purpose === 'string' ? { id: purpose } : purpose;
  return {
    ...(mark === undefined ? {} : { mark }),
    ...(name === undefined ? {} : { name }),
    variant,
    size: readPart(sizes, line.size as Part, `${where}.size`),
    format: readPart(formats, line.format as Part, `${where}.format`),
    purpose: { id, params: checkValues(purposes.get(id).params, knownParams(id, params), `${where}.purpose`) },
  };
}

import * as yup from 'yup';
import { CoreError } from './errors';
import { type Corners, type Point, isConvex } from './geometry/projective';

/** What kind of control a setting asks for. */
export type SettingKind =
  | 'number'
  | 'choice'
  | 'flag'
  | 'colour'
  | 'text'
  | 'points'
  | 'rect'
  | 'colours'
  | 'point'
  | 'corners'
  | 'places'
  | 'list'
  | 'stops'
  | 'pairs';

/**
 * How a form, the command line and the reference show a setting; every schema of a setting carries it as its `meta`.
 */
export interface SettingMeta {
  readonly kind: SettingKind;
  readonly label: string;
  readonly hint?: string;
  readonly unit?: string;
  readonly step?: number;
  readonly min?: number;
  readonly max?: number;
  readonly choices?: readonly { readonly value: string; readonly label: string }[];
  /** null means "let the program find it". */
  readonly isOptional?: boolean;
  /** Its name on the command line where it has one there, such as `width` for `--width`. */
  readonly option?: string;
  /** What is accepted, as words that follow "must be". */
  readonly expected: string;
}

declare module 'yup' {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type -- Yup asks for an interface to be merged
  interface CustomSchemaMetadata extends Partial<SettingMeta> {}
}

/** The schema of one setting: what is accepted, what it starts as, and, as `meta`, how it is shown. */
export type Setting<T> = yup.Schema<T>;
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- any setting's type
export type Fields = Readonly<Record<string, Setting<any>>>;
export type Values<F> = { [K in keyof F]: F[K] extends Setting<infer T> ? T : never };

interface Shown {
  readonly label: string;
  readonly hint?: string;
  readonly option?: string;
}
interface NumberOptions extends Shown {
  readonly initial: number;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  readonly unit?: string;
}

/** A place on a working picture, px. No picture is larger, and a turned region reaches no further beyond it. */
const FARTHEST_PX = 1_000_000;
const HEX = /^#[0-9a-f]{6}$/i;
const isFiniteNumber = (v: unknown): v is number => typeof v === 'number' && Math.abs(v) <= FARTHEST_PX;
const isPoint = (p: unknown): p is Point =>
  typeof p === 'object' && p !== null && isFiniteNumber((p as Point).x) && isFiniteNumber((p as Point).y);

// The one cast of a schema's own type to that of its values: Yup's types tell the steps that led there as well.
const settingOf = <T>(schema: yup.AnySchema, initial: T, meta: SettingMeta): Setting<T> =>
  (schema as yup.MixedSchema).default(() => structuredCloneJson(initial)).meta(meta) as unknown as Setting<T>;

/** A schema for which a test of ours decides alone. */
const judged = <T>(isGood: (v: unknown) => boolean, initial: T, meta: SettingMeta): Setting<T> =>
  settingOf(
    yup
      .mixed()
      .nullable()
      .test({ name: 'expected', message: `must be ${meta.expected}`, test: isGood }),
    initial,
    meta,
  );

function boundedNumber(
  o: Omit<NumberOptions, 'initial'>,
  expected: string,
): yup.NumberSchema<number | null | undefined> {
  const message = `must be ${expected}`;
  return yup.number().typeError(message).min(o.min, message).max(o.max, message).nullable();
}

export function numberField({ initial, ...o }: NumberOptions): Setting<number> {
  const expected = `a number from ${o.min} to ${o.max}`;
  const schema = boundedNumber(o, expected).nonNullable(`must be ${expected}`);
  return settingOf(schema, initial, { kind: 'number', ...o, expected });
}

/** A whole number. */
export function wholeField({ initial, ...o }: NumberOptions): Setting<number> {
  const expected = `a whole number from ${o.min} to ${o.max}`;
  const schema = boundedNumber(o, expected).integer(`must be ${expected}`).nonNullable(`must be ${expected}`);
  return settingOf(schema, initial, { kind: 'number', ...o, expected });
}

/** A number, or null for "let the program find it". */
export function optionalNumberField(o: Omit<NumberOptions, 'initial'>): Setting<number | null> {
  const expected = `null or a number from ${o.min} to ${o.max}`;
  return settingOf(boundedNumber(o, expected), null, { kind: 'number', isOptional: true, ...o, expected });
}

export function flagField({ initial, ...o }: Shown & { initial: boolean }): Setting<boolean> {
  const expected = 'true or false';
  const schema = yup.boolean().typeError(`must be ${expected}`).nonNullable(`must be ${expected}`);
  return settingOf(schema, initial, { kind: 'flag', ...o, expected });
}

export function choiceField<const C extends readonly { value: string; label: string }[]>({
  initial,
  ...o
}: Shown & { initial: C[number]['value']; choices: C }): Setting<C[number]['value']> {
  const values = o.choices.map((c) => c.value);
  const expected = `one of ${values.join(', ')}`;
  const schema = yup.string().typeError(`must be ${expected}`).oneOf(values, `must be ${expected}`);
  return settingOf(schema.nonNullable(`must be ${expected}`), initial, { kind: 'choice', ...o, expected });
}

const hexSchema = (message: string) =>
  yup
    .string()
    .typeError(message)
    .nonNullable(message)
    .matches(HEX, message)
    .transform((v: unknown) => (typeof v === 'string' ? v.toLowerCase() : v));

/** Words of a person, on one line. */
export function textField({ most, ...o }: Shown & { most: number }): Setting<string> {
  const expected = `a text of at most ${most} characters`;
  const message = `must be ${expected}`;
  const schema = yup
    .string()
    .typeError(message)
    .nonNullable(message)
    .max(most, message)
    .test('one line', `${message} on one line`, (v) => !/\p{Cc}/u.test(v ?? ''));
  return settingOf(schema, '', { kind: 'text', ...o, max: most, expected });
}

export function colourField({ initial, ...o }: Shown & { initial: string }): Setting<string> {
  const expected = 'a colour such as #1a2b3c';
  return settingOf(hexSchema(`must be ${expected}`), initial, { kind: 'colour', ...o, expected });
}

/** A list of colours, empty for "let the program measure them". */
export function coloursField({ most, ...o }: Shown & { most: number }): Setting<string[]> {
  const expected = `at most ${most} ${most === 1 ? 'colour' : 'colours'} such as #1a2b3c`;
  const message = `must be ${expected}`;
  const schema = yup
    .array()
    .typeError(message)
    .nonNullable(message)
    .of(hexSchema(message).defined(message))
    .max(most, message);
  return settingOf<string[]>(schema, [], { kind: 'colours', ...o, max: most, expected });
}

export interface RectPx {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A region in working-picture pixels, or null for the whole picture. */
export const rectField = (o: Shown): Setting<RectPx | null> =>
  judged<RectPx | null>(
    (v) => {
      if (v === null) return true;
      const r = v as RectPx;
      const sides = ['x', 'y', 'width', 'height'];
      return (
        typeof v === 'object' &&
        Object.keys(r).every((k) => sides.includes(k)) &&
        [r.x, r.y, r.width, r.height].every(isFiniteNumber) &&
        r.width >= 1 &&
        r.height >= 1
      );
    },
    null,
    { kind: 'rect', ...o, expected: 'null or { x, y, width, height } with at least 1 px each way' },
  );

export interface Anchor {
  x: number;
  y: number;
  decision: 'open' | 'solid';
}
/** Choices anchored to places: points in working-picture pixels, each with a decision. */
export const anchorsField = ({ most, ...o }: Shown & { most: number }): Setting<Anchor[]> => {
  const good = (a: Anchor) =>
    isPoint(a) && (a.decision === 'open' || a.decision === 'solid') && Object.keys(a).length === 3;
  return judged<Anchor[]>((v) => Array.isArray(v) && v.length <= most && v.every(good), [], {
    kind: 'points',
    ...o,
    max: most,
    expected: `at most ${most} of { x, y, decision: open | solid }`,
  });
};

/** Places in working-picture pixels. */
export const placesField = ({ most, ...o }: Shown & { most: number }): Setting<Point[]> =>
  judged<Point[]>(
    (v) => Array.isArray(v) && v.length <= most && v.every((p) => isPoint(p) && Object.keys(p).length === 2),
    [],
    { kind: 'places', ...o, max: most, expected: `at most ${most} of { x, y }` },
  );

/** A list of things that a test of their own knows. @param what  one of them, as words that follow "of" */
export const listField = <T>({
  most,
  isOne,
  what,
  ...o
}: Shown & { most: number; isOne: (v: unknown) => v is T; what: string }): Setting<T[]> =>
  judged<T[]>((v) => Array.isArray(v) && v.length <= most && v.every(isOne), [], {
    kind: 'list',
    ...o,
    max: most,
    expected: `at most ${most} of ${what}`,
  });

/** A colour on the way of a gradient, `at` 0 to 1. */
export interface StopValue {
  readonly at: number;
  readonly colour: string;
}
const MOST_STOPS = 12;
const isStop = (v: unknown): v is StopValue => {
  if (typeof v !== 'object' || v === null) return false;
  const { at, colour, ...rest } = v as Record<string, unknown>;
  const isShare = typeof at === 'number' && at >= 0 && at <= 1;
  return isShare && typeof colour === 'string' && HEX.test(colour) && Object.keys(rest).length === 0;
};

/** The colours of a gradient in order. */
export const stopsField = ({ initial, ...o }: Shown & { initial: readonly StopValue[] }): Setting<StopValue[]> =>
  judged<StopValue[]>(
    (v) =>
      Array.isArray(v) &&
      v.length >= 2 &&
      v.length <= MOST_STOPS &&
      v.every(isStop) &&
      v.every((s, k) => k === 0 || s.at >= v[k - 1].at),
    [...initial],
    { kind: 'stops', ...o, expected: `2 to ${MOST_STOPS} of { at, colour }, at from 0 to 1 in order` },
  );

/** A colour of the master and what becomes of it: another, or nothing. */
export type PairValue =
  { readonly from: string; readonly to: string } | { readonly from: string; readonly clear: true };
const MOST_PAIRS = 32;
const isPair = (v: unknown): v is PairValue => {
  if (typeof v !== 'object' || v === null) return false;
  const { from, to, clear, ...rest } = v as Record<string, unknown>;
  const isHex = (c: unknown) => typeof c === 'string' && HEX.test(c);
  const isOneOfBoth = clear === true ? to === undefined : clear === undefined && isHex(to);
  return isHex(from) && isOneOfBoth && Object.keys(rest).length === 0;
};

/** Which colours become which. */
export const pairsField = (o: Shown): Setting<PairValue[]> =>
  judged<PairValue[]>((v) => Array.isArray(v) && v.length <= MOST_PAIRS && v.every(isPair), [], {
    kind: 'pairs',
    ...o,
    max: MOST_PAIRS,
    expected: `at most ${MOST_PAIRS} of { from, to } or { from, clear: true }`,
  });

/** A place in working-picture pixels, or null for none. */
export const pointField = (o: Shown): Setting<Point | null> =>
  judged<Point | null>((v) => v === null || (isPoint(v) && Object.keys(v).length === 2), null, {
    kind: 'point',
    ...o,
    expected: 'null or { x, y }',
  });

/** Four corners of a sheet in working-picture pixels, from its top left on, or null. */
export const cornersField = (o: Shown): Setting<Corners | null> =>
  judged<Corners | null>(
    (v) => v === null || (Array.isArray(v) && v.length === 4 && v.every(isPoint) && isConvex(v as unknown as Corners)),
    null,
    {
      kind: 'corners',
      ...o,
      expected: 'null or four corners { x, y } of a convex sheet, clockwise from its top left',
    },
  );

const structuredCloneJson = <T>(v: T): T => (v === undefined ? v : (JSON.parse(JSON.stringify(v)) as T));

// A schema without settings has no default of its own.
export const initialValues = <F extends Fields>(fields: F): Values<F> =>
  (schemaOf(fields).getDefault() ?? {}) as Values<F>;

/** How a setting is shown. */
export const metaOf = (setting: Setting<unknown>): SettingMeta => setting.spec.meta as unknown as SettingMeta;

const schemas = new WeakMap<Fields, yup.ObjectSchema<Record<string, unknown>>>();

/** All settings of a definition as one schema, which refuses what it does not know. */
export function schemaOf(fields: Fields): yup.ObjectSchema<Record<string, unknown>> {
  let schema = schemas.get(fields);
  if (!schema) {
    schema = yup
      .object(fields as never)
      .typeError('must be an object of settings')
      .noUnknown(true, ({ unknown }: { unknown: string }) => `there is no setting "${unknown.split(',')[0]}"`);
    schemas.set(fields, schema as never);
  }
  return schema as never;
}

/**
 * Plain values checked against their fields; a missing setting takes its initial value.
 * @throws CoreError 'params/invalid' naming the setting, what was expected and what was got
 */
export function checkValues<F extends Fields>(fields: F, values: unknown, where: string): Values<F> {
  const refuse = (words: string, setting?: string): never => {
    throw new CoreError('params/invalid', `${where}: ${words}.`, setting ? { where, setting } : { where });
  };
  if (values !== undefined && (typeof values !== 'object' || values === null || Array.isArray(values))) {
    return refuse(`expected an object of settings, got ${shorten(values)}`);
  }
  const schema = schemaOf(fields);
  const given = Object.entries(values ?? {}).filter(([, v]) => v !== undefined);
  const whole = { ...initialValues(fields), ...Object.fromEntries(given) } as Record<string, unknown>;
  try {
    schema.validateSync(whole, { strict: true, abortEarly: true });
  } catch (cause) {
    if (!(cause instanceof yup.ValidationError)) throw cause;
    const setting = /^\w+/.exec(cause.path ?? '')?.[0];
    if (!setting) return refuse(cause.message);
    return refuse(`"${setting}" ${cause.message}, got ${shorten(whole[setting])}`, setting);
  }
  return structuredCloneJson(schema.cast(whole, { assert: false })) as Values<F>;
}

const shorten = (v: unknown): string => (JSON.stringify(v) ?? String(v)).slice(0, 120);

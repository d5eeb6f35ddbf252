import { CoreError } from './errors';
import { type Corners, type Point, isConvex } from './geometry/projective';

/** One setting: how it is checked, what it starts as, and how a form shows it. */
export interface Field<T> {
  readonly kind:
    | 'number'
    | 'choice'
    | 'flag'
    | 'colour'
    | 'text'
    | 'points'
    | 'rect'
    | 'optionalNumber'
    | 'colours'
    | 'point'
    | 'corners';
  readonly label: string;
  readonly hint?: string;
  readonly initial: T;
  readonly min?: number;
  readonly max?: number;
  readonly step?: number;
  readonly unit?: string;
  readonly choices?: readonly { value: string; label: string }[];
  /** The value itself when it is acceptable, else what was expected, as words. */
  check(value: unknown): { ok: true; value: T } | { ok: false; expected: string };
}

export type Fields = Record<string, Field<unknown>>;
export type Values<F> = { [K in keyof F]: F[K] extends Field<infer T> ? T : never };

const ok = <T>(value: T) => ({ ok: true as const, value });
const no = (expected: string) => ({ ok: false as const, expected });
const isFiniteNumber = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);
const HEX = /^#[0-9a-f]{6}$/i;

interface NumberOptions {
  label: string;
  hint?: string;
  initial: number;
  min: number;
  max: number;
  step: number;
  unit?: string;
}

export const numberField = (o: NumberOptions): Field<number> => ({
  kind: 'number',
  ...o,
  check: (v) => (isFiniteNumber(v) && v >= o.min && v <= o.max ? ok(v) : no(`a number from ${o.min} to ${o.max}`)),
});

/** A number, or null for "let the program find it". */
export const optionalNumberField = (o: Omit<NumberOptions, 'initial'>): Field<number | null> => ({
  kind: 'optionalNumber',
  ...o,
  initial: null,
  check: (v) =>
    v === null || (isFiniteNumber(v) && v >= o.min && v <= o.max)
      ? ok(v)
      : no(`null or a number from ${o.min} to ${o.max}`),
});

export const flagField = (o: { label: string; hint?: string; initial: boolean }): Field<boolean> => ({
  kind: 'flag',
  ...o,
  check: (v) => (typeof v === 'boolean' ? ok(v) : no('true or false')),
});

export function choiceField<const C extends readonly { value: string; label: string }[]>(o: {
  label: string;
  hint?: string;
  initial: C[number]['value'];
  choices: C;
}): Field<C[number]['value']> {
  const values = o.choices.map((c) => c.value);
  return {
    kind: 'choice',
    ...o,
    check: (v) =>
      typeof v === 'string' && values.includes(v) ? ok(v as C[number]['value']) : no(`one of ${values.join(', ')}`),
  };
}

export const colourField = (o: { label: string; hint?: string; initial: string }): Field<string> => ({
  kind: 'colour',
  ...o,
  check: (v) => (typeof v === 'string' && HEX.test(v) ? ok(v.toLowerCase()) : no('a colour such as #1a2b3c')),
});

/** A list of colours, empty for "let the program measure them". */
export const coloursField = (o: { label: string; hint?: string; most: number }): Field<string[]> => ({
  kind: 'colours',
  ...o,
  initial: [],
  check: (v) =>
    Array.isArray(v) && v.length <= o.most && v.every((c) => typeof c === 'string' && HEX.test(c))
      ? ok(v.map((c: string) => c.toLowerCase()))
      : no(`at most ${o.most} colours such as #1a2b3c`),
});

export interface RectPx {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A region in working-picture pixels, or null for the whole picture. */
export const rectField = (o: { label: string; hint?: string }): Field<RectPx | null> => ({
  kind: 'rect',
  ...o,
  initial: null,
  check(v) {
    if (v === null) return ok(null);
    const r = v as RectPx;
    const whole = typeof v === 'object' && [r.x, r.y, r.width, r.height].every(isFiniteNumber);
    return whole && r.width >= 1 && r.height >= 1
      ? ok({ x: r.x, y: r.y, width: r.width, height: r.height })
      : no('null or { x, y, width, height } with at least 1 px each way');
  },
});

export interface Anchor {
  x: number;
  y: number;
  decision: 'open' | 'solid';
}

/** Choices anchored to places: points in working-picture pixels, each with a decision. */
export const anchorsField = (o: { label: string; hint?: string; most: number }): Field<Anchor[]> => ({
  kind: 'points',
  ...o,
  initial: [],
  check(v) {
    const good = (a: Anchor) =>
      a && isFiniteNumber(a.x) && isFiniteNumber(a.y) && (a.decision === 'open' || a.decision === 'solid');
    return Array.isArray(v) && v.length <= o.most && v.every(good)
      ? ok(v.map((a: Anchor) => ({ x: a.x, y: a.y, decision: a.decision })))
      : no(`at most ${o.most} of { x, y, decision: open | solid }`);
  },
});

const isPoint = (p: unknown): p is Point =>
  typeof p === 'object' && p !== null && isFiniteNumber((p as Point).x) && isFiniteNumber((p as Point).y);

/** A place in working-picture pixels, or null for none. */
export const pointField = (o: { label: string; hint?: string }): Field<Point | null> => ({
  kind: 'point',
  ...o,
  initial: null,
  check: (v) => (v === null ? ok(null) : isPoint(v) ? ok({ x: v.x, y: v.y }) : no('null or { x, y }')),
});

/** Four corners of a sheet in working-picture pixels, from its top left on, or null. */
export const cornersField = (o: { label: string; hint?: string }): Field<Corners | null> => ({
  kind: 'corners',
  ...o,
  initial: null,
  check(v) {
    if (v === null) return ok(null);
    const isFour = Array.isArray(v) && v.length === 4 && v.every(isPoint);
    return isFour && isConvex(v as unknown as Corners)
      ? ok(v.map(({ x, y }: Point) => ({ x, y })) as unknown as Corners)
      : no('null or four corners { x, y } of a convex sheet, clockwise from its top left');
  },
});

export function initialValues<F extends Fields>(fields: F): Values<F> {
  return Object.fromEntries(Object.entries(fields).map(([k, f]) => [k, structuredCloneJson(f.initial)])) as Values<F>;
}

const structuredCloneJson = <T>(v: T): T => (v === undefined ? v : (JSON.parse(JSON.stringify(v)) as T));

/**
 * Plain values checked against their fields; a missing setting takes its initial value.
 * @throws CoreError 'params/invalid' naming the setting, what was expected and what was got
 */
export function checkValues<F extends Fields>(fields: F, values: unknown, where: string): Values<F> {
  if (values !== undefined && (typeof values !== 'object' || values === null || Array.isArray(values))) {
    throw new CoreError('params/invalid', `${where}: expected an object of settings, got ${JSON.stringify(values)}.`, {
      where,
    });
  }
  const given = (values ?? {}) as Record<string, unknown>;
  const unknown = Object.keys(given).find((k) => !(k in fields));
  if (unknown)
    throw new CoreError('params/invalid', `${where}: there is no setting "${unknown}".`, { where, setting: unknown });
  const result: Record<string, unknown> = {};
  for (const [name, field] of Object.entries(fields)) {
    const value = given[name] === undefined ? structuredCloneJson(field.initial) : given[name];
    const checked = field.check(value);
    if (!checked.ok) {
      throw new CoreError(
        'params/invalid',
        `${where}: "${name}" must be ${checked.expected}, got ${JSON.stringify(value)}.`,
        { where, setting: name },
      );
    }
    result[name] = checked.value;
  }
  return result as Values<F>;
}

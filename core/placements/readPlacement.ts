import * as yup from 'yup';
import { type BlendMode, blendModes } from '../colour/blend';
import { readColour } from '../colour/readColour';
import { CoreError } from '../errors';
import type { RectPx } from '../params';
import { type Length, readLength } from './lengths';
import { ANCHORS, type Anchor, type Place } from './placement';

/** A mark of a placement. */
export interface MarkItem extends Place {
  readonly mark: string;
  /** One variant by its name; or `auto`, or several, of which the one that reads best on the ground is taken. */
  readonly variant: string | readonly string[];
  /** 0 to 1. */
  readonly opacity: number;
  readonly blend: BlendMode;
  /** Clockwise. */
  readonly turnDeg: number;
}

export const EDGES = ['upper', 'lower', 'left', 'right'] as const;
export type Edge = (typeof EDGES)[number];

/** A plain strip along an edge of the ground, from end to end. */
export interface StripItem {
  readonly strip: { readonly colour: string; readonly edge: Edge; readonly heightPx: number };
  readonly opacity: number;
  readonly blend: BlendMode;
}

export type Item = MarkItem | StripItem;
export const isStrip = (item: Item): item is StripItem => 'strip' in item;

/** How a photo comes to fill an exact frame: by a name, or into a part of it. */
export type Fit = 'fill' | 'fit' | 'stretch' | RectPx;
export const FITS = ['fill', 'fit', 'stretch'] as const;

/** A saved rule of where marks sit on a ground, the first item lowest. */
export interface Placement {
  readonly items: readonly Item[];
  readonly fit: Fit;
  /** The exact frame that photos are fitted into; the photo itself without one. */
  readonly frame: Frame | null;
}

export interface Frame {
  readonly width: number;
  readonly height: number;
  /** Beneath everything; clear without one. */
  readonly colour: string | null;
}

const MOST_ITEMS = 40;
const MOST_SIDE_PX = 16_384;
const LEAST_SIDE_PX = 8;
export const START_PLACE = { at: 'lower-right', inset: '4%', size: '18%' } as const;

const fail = (where: string, expected: string, given: unknown): never => {
  const text = typeof given === 'string' ? given : (JSON.stringify(given) ?? 'nothing');
  throw new CoreError('placement/invalid', `${where}: expected ${expected}, got ${text.slice(0, 80)}.`, { where });
};

const check = <T>(schema: yup.Schema<T>, value: unknown, where: string, expected: string): T =>
  schema.isValidSync(value, { strict: true }) ? (value as T) : fail(where, expected, value);

const oneOf = <T extends string>(all: readonly T[], value: unknown, where: string): T =>
  all.includes(value as T) ? (value as T) : fail(where, all.join(', '), value);

const object = (value: unknown, where: string, keys: readonly string[]): Record<string, unknown> => {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return fail(where, 'an object', value);
  const odd = Object.keys(value).find((key) => !keys.includes(key));
  if (odd) throw new CoreError('placement/invalid', `${where}: there is no "${odd}".`, { where });
  return value as Record<string, unknown>;
};

const side = yup.number().required().integer().min(LEAST_SIDE_PX).max(MOST_SIDE_PX);
const place = yup.number().required().min(-MOST_SIDE_PX).max(MOST_SIDE_PX);

/**
 * A placement as a file, a command or a screen gives it: what is left out starts as it does everywhere.
 * @throws CoreError 'placement/invalid', 'placement/length' saying where and what was expected
 */
export function readPlacement(value: unknown): Placement {
  const { items, fit, frame } = object(value, 'placement', ['items', 'fit', 'frame']);
  if (!Array.isArray(items) || items.length === 0 || items.length > MOST_ITEMS)
    fail('items', `a list of 1 to ${MOST_ITEMS} marks and strips`, items);
  return {
    items: (items as unknown[]).map((item, k) => readItem(item, `items[${k}]`)),
    fit: readFit(fit ?? 'fill'),
    frame: frame === undefined || frame === null ? null : readFrame(frame),
  };
}

const COMMON = ['opacity', 'blend'];

function readItem(value: unknown, where: string): Item {
  const given = object(value, where, [
    'mark',
    'strip',
    'variant',
    'at',
    'inset',
    'size',
    'turnDeg',
    'edge',
    'heightPx',
    ...COMMON,
  ]);
  const laying = {
    opacity: check(yup.number().required().min(0).max(1), given.opacity ?? 1, `${where}.opacity`, 'a number 0 to 1'),
    blend: oneOf(blendModes, given.blend ?? 'normal', `${where}.blend`),
  };
  // A strip may stand where a mark's path does.
  const strip = given.strip ?? (typeof given.mark === 'object' ? (given.mark as { strip?: unknown }).strip : undefined);
  if (strip !== undefined) return { strip: readStrip(inner(strip, given), `${where}.strip`), ...laying };
  return {
    mark: check(yup.string().required().max(4000), given.mark, `${where}.mark`, 'a mark, or a strip'),
    variant: readVariantChoice(given.variant ?? 'auto', `${where}.variant`),
    at: readAt(given.at ?? START_PLACE.at, `${where}.at`),
    inset: lengthOf(given.inset ?? START_PLACE.inset, `${where}.inset`, 0),
    size: lengthOf(given.size ?? START_PLACE.size, `${where}.size`, 0.01),
    turnDeg: check(yup.number().required().min(-360).max(360), given.turnDeg ?? 0, `${where}.turnDeg`, 'degrees'),
    ...laying,
  };
}

// `{ strip: colour, edge, heightPx }`: the colour stands under the strip's own name, its edge beside it.
const inner = (strip: unknown, item: Record<string, unknown>): unknown => {
  if (typeof strip === 'object') return strip;
  const { edge, heightPx } = (typeof item.mark === 'object' ? item.mark : item) as Record<string, unknown>;
  return { colour: strip, edge, heightPx };
};

function readStrip(value: unknown, where: string): StripItem['strip'] {
  const { colour, edge, heightPx } = object(value, where, ['colour', 'edge', 'heightPx']);
  const word = { top: 'upper', bottom: 'lower' }[edge as string] ?? edge;
  return {
    colour: colourOf(colour, `${where}.colour`),
    edge: oneOf(EDGES, word ?? 'lower', `${where}.edge`),
    heightPx: check(
      yup.number().required().integer().min(1).max(MOST_SIDE_PX),
      heightPx,
      `${where}.heightPx`,
      'whole pixels, 1 or more',
    ),
  };
}

const colourOf = (value: unknown, where: string): string =>
  (typeof value === 'string' ? readColour(value) : null) ?? fail(where, 'a colour', value);

function readVariantChoice(value: unknown, where: string): MarkItem['variant'] {
  if (Array.isArray(value))
    return check(yup.array(yup.string().required()).required().min(1).max(20), value, where, 'names of variants');
  return check(yup.string().required().max(4000), value, where, 'auto, a variant, or several');
}

/** An anchor, `X,Y`, or `{ x, y }`. @throws CoreError 'placement/invalid' */
export function readAt(value: unknown, where: string): Place['at'] {
  if (ANCHORS.includes(value as Anchor)) return value as Anchor;
  const [x, y, ...rest] =
    typeof value === 'string'
      ? value.split(',').map((v) => (v.trim() === '' ? NaN : Number(v)))
      : typeof value === 'object' && value !== null
        ? [(value as { x: number }).x, (value as { y: number }).y]
        : [];
  if (rest.length > 0 || ![x, y].every((v) => place.isValidSync(v, { strict: true })))
    throw new CoreError('placement/invalid', `${where} takes ${ANCHORS.join(', ')} or X,Y, got "${String(value)}".`, {
      where,
    });
  return { x, y };
}

/** As typed, or as it is kept. */
function lengthOf(value: unknown, where: string, least: number): Length {
  if (typeof value !== 'object' || value === null) return readLength(value, where, least);
  const { value: number, unit, of } = object(value, where, ['value', 'unit', 'of']) as unknown as Length;
  return readLength(`${number}${unit === 'pct' ? '%' : unit}${of ? ` of ${of}` : ''}`, where, least);
}

function readFit(value: unknown): Fit {
  if (FITS.includes(value as (typeof FITS)[number])) return value as Fit;
  if (typeof value !== 'object') return fail('fit', `${FITS.join(', ')}, or a part of the frame`, value);
  const { x, y, width, height } = object(value, 'fit', ['x', 'y', 'width', 'height']);
  const whole = (v: unknown, key: string, schema: yup.NumberSchema) =>
    check(schema.required(), v, `fit.${key}`, 'whole pixels of the frame') as number;
  return {
    x: whole(x ?? 0, 'x', place.integer()),
    y: whole(y ?? 0, 'y', place.integer()),
    width: whole(width, 'width', yup.number().integer().min(1).max(MOST_SIDE_PX)),
    height: whole(height, 'height', yup.number().integer().min(1).max(MOST_SIDE_PX)),
  };
}

function readFrame(value: unknown): Frame {
  if (typeof value === 'string') {
    const frame = frameOf(value);
    return frame ?? fail('frame', 'such as 640x360', value);
  }
  const { width, height, colour } = object(value, 'frame', ['width', 'height', 'colour']);
  const sides = `a side of ${LEAST_SIDE_PX} to ${MOST_SIDE_PX} px`;
  return {
    width: check(side, width, 'frame.width', sides),
    height: check(side, height, 'frame.height', sides),
    colour: colour === undefined || colour === null ? null : colourOf(colour, 'frame.colour'),
  };
}

/** `WxH` or `WxH:colour`; null for what is written otherwise. @throws CoreError 'placement/invalid' */
export function frameOf(text: string): Frame | null {
  const found = /^(\d{1,5})x(\d{1,5})(?::(.+))?$/.exec(text);
  if (!found) return null;
  const [width, height] = [Number(found[1]), Number(found[2])];
  if (![width, height].every((v) => side.isValidSync(v)))
    throw new CoreError(
      'placement/invalid',
      `A frame has sides of ${LEAST_SIDE_PX} to ${MOST_SIDE_PX} px, got "${text}".`,
    );
  if (found[3] === undefined) return { width, height, colour: null };
  const colour = readColour(found[3]);
  if (!colour) throw new CoreError('placement/invalid', `"${found[3]}" is no colour.`);
  return { width, height, colour };
}

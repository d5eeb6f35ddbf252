import { CoreError } from '../errors';

export interface Slot {
  readonly width: number;
  readonly height: number;
  /** Free on every side, px. */
  readonly padding: number;
}

/** What marks of a wall are shown in: their own colours, one, or greys. */
export type WallDress = 'colour' | 'one' | 'greys';

/** How a wall's marks are set. */
export interface WallRule {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Free on every side; % is of the slot's shorter side. */
  readonly padding: { readonly value: number; readonly unit: '%' | 'px' };
  /** 0 fills each slot's box, 1 makes all look equally large. */
  readonly level: number;
  readonly dress: WallDress;
  /** The one colour, where marks are shown in one. */
  readonly colour: string;
  readonly ground: string;
  /** A photo of the brand's grounds in place of the colour. */
  readonly groundId: string | null;
}

export const LEAST_SIDE = 8;
export const MOST_SIDE = 8192;

export const USUAL_WALL: WallRule = {
  ...{ widthPx: 360, heightPx: 180, padding: { value: 10, unit: '%' }, level: 1 },
  ...{ dress: 'colour', colour: '#1c1b1d', ground: '#ffffff', groundId: null },
};

const SIZE = /^\s*(\d{1,5})\s*[x×]\s*(\d{1,5})\s*(?:px)?\s*$/i;
const PADDING = /^\s*(\d+(?:\.\d+)?)\s*(%|px)?\s*$/;

/** A slot's size as it is typed, such as 360x180; null where it is none. */
export function parseSlotSize(text: string): { widthPx: number; heightPx: number } | null {
  const found = SIZE.exec(text);
  return found && { widthPx: Number(found[1]), heightPx: Number(found[2]) };
}

/** A padding as it is typed, such as 10% or 12px; null where it is none. */
export function parsePadding(text: string): WallRule['padding'] | null {
  const found = PADDING.exec(text);
  return found && { value: Number(found[1]), unit: found[2] === '%' ? '%' : 'px' };
}

/** The padding in px. */
export const paddingPx = ({
  widthPx,
  heightPx,
  padding,
}: Pick<WallRule, 'widthPx' | 'heightPx' | 'padding'>): number =>
  padding.unit === '%' ? (padding.value / 100) * Math.min(widthPx, heightPx) : padding.value;

export const slotOf = (rule: WallRule): Slot => ({
  width: rule.widthPx,
  height: rule.heightPx,
  padding: paddingPx(rule),
});

/** What marks have to stand in. */
export const roomOf = ({ width, height, padding }: Slot) => ({
  width: width - 2 * padding,
  height: height - 2 * padding,
});

const HEX = /^#[0-9a-f]{6}$/;
const KEYS = Object.keys(USUAL_WALL);

/**
 * A wall's rule from outside; what is not said is as usual.
 * @throws CoreError 'request/invalid' naming what is wrong
 */
export function readWallRule(value: unknown): WallRule {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw wrong('A wall’s rule is an object.');
  const odd = Object.keys(value).find((k) => !KEYS.includes(k));
  if (odd) throw wrong(`A wall’s rule has no "${odd}".`);
  const rule = { ...USUAL_WALL, ...value } as WallRule;
  for (const side of ['widthPx', 'heightPx'] as const)
    if (!Number.isInteger(rule[side]) || rule[side] < LEAST_SIDE || rule[side] > MOST_SIDE)
      throw wrong(`A slot’s sides are from ${LEAST_SIDE} to ${MOST_SIDE} px, got ${String(rule[side])}.`);
  const { padding } = rule;
  const isPadding = typeof padding === 'object' && padding !== null && ['%', 'px'].includes(padding.unit);
  if (!isPadding || !Number.isFinite(padding.value) || padding.value < 0 || !leavesRoom(rule))
    throw wrong('Padding takes less than half of the slot, such as 10 % or 12 px.');
  if (!(rule.level >= 0 && rule.level <= 1)) throw wrong(`Levelling goes from 0 to 1, got ${String(rule.level)}.`);
  if (!['colour', 'one', 'greys'].includes(rule.dress)) throw wrong('Marks are in colour, one colour or greys.');
  for (const colour of [rule.colour, rule.ground])
    if (typeof colour !== 'string' || !HEX.test(colour)) throw wrong(`A colour is such as #1a2b3c, got ${colour}.`);
  if (rule.groundId !== null && typeof rule.groundId !== 'string') throw wrong('A ground is named by its id.');
  return { ...rule, padding: { value: padding.value, unit: padding.unit } };
}

/** Whether something of the slot is left between the paddings. */
export const leavesRoom = (rule: Pick<WallRule, 'widthPx' | 'heightPx' | 'padding'>): boolean =>
  2 * paddingPx(rule) <= Math.min(rule.widthPx, rule.heightPx) - 2;

const wrong = (message: string) => new CoreError('request/invalid', message);

/**
 * A round brush drawn over the artwork: rubs out; brings back what the cut-out made; makes solid what the picture
 * shows, or open what has the ground's colour.
 */
export interface BrushEdit {
  readonly kind: 'rub' | 'back' | 'solid' | 'open';
  /** Diameter at full pressure, working-picture px. */
  readonly size: number;
  /** 0 fades from the middle on, 1 has an edge of one pixel. */
  readonly hardness: number;
  /** x, y, pressure 0 to 1, and so on; working-picture px. */
  readonly points: readonly number[];
}

/**
 * An outline drawn round a part: what lies in it becomes solid as the picture shows it, or open where it has the
 * ground's colour, or is covered with a colour.
 */
export interface OutlineEdit {
  readonly kind: 'solid' | 'open' | 'cover';
  /** x, y and so on; closed by itself. Working-picture px. */
  readonly points: readonly number[];
  /** What covers it; null for transparency. Only for 'cover'. */
  readonly colour?: string | null;
}

/** The piece at a place takes another colour. */
export interface RecolourEdit {
  readonly kind: 'recolour';
  readonly points: readonly number[];
  readonly colour: string;
}

export type Edit = BrushEdit | OutlineEdit | RecolourEdit;

const FARTHEST_PX = 1_000_000;
export const MOST_BRUSH_PX = 2000;
const MOST_NUMBERS = 3000;
const HEX = /^#[0-9a-f]{6}$/;

const isNumber = (v: unknown, min: number, max: number): v is number => typeof v === 'number' && v >= min && v <= max;
const isPoints = (v: unknown, perPoint: number, least: number): boolean =>
  Array.isArray(v) &&
  v.length >= least * perPoint &&
  v.length <= MOST_NUMBERS &&
  v.length % perPoint === 0 &&
  v.every((n) => isNumber(n, -FARTHEST_PX, FARTHEST_PX));
const hasOnly = (v: object, ...keys: string[]) => Object.keys(v).every((k) => keys.includes(k));

const isBrush = (v: Record<string, unknown>) =>
  hasOnly(v, 'kind', 'size', 'hardness', 'points') &&
  isNumber(v.size, 0.1, MOST_BRUSH_PX) &&
  isNumber(v.hardness, 0, 1) &&
  isPoints(v.points, 3, 1);

/** Whether an edit was drawn by brush, not as an outline. */
export const isStroke = (edit: Edit): edit is BrushEdit => 'size' in edit;

/** Whether a plain value is an edit, with nothing else in it. */
export function isEdit(value: unknown): value is Edit {
  if (typeof value !== 'object' || value === null) return false;
  const v = value as Record<string, unknown>;
  switch (v.kind) {
    case 'rub':
    case 'back':
      return isBrush(v);
    case 'solid':
    case 'open':
      if (v.size === undefined) return hasOnly(v, 'kind', 'points') && isPoints(v.points, 2, 3);
      return isBrush(v);
    case 'cover':
      return (
        hasOnly(v, 'kind', 'points', 'colour') &&
        isPoints(v.points, 2, 3) &&
        (v.colour === null || (typeof v.colour === 'string' && HEX.test(v.colour)))
      );
    case 'recolour':
      return (
        hasOnly(v, 'kind', 'points', 'colour') &&
        isPoints(v.points, 2, 1) &&
        typeof v.colour === 'string' &&
        HEX.test(v.colour)
      );
    default:
      return false;
  }
}

/** A loop of at least three points, as x, y and so on. */
export const isLoop = (value: unknown): value is number[] => isPoints(value, 2, 3);

import { CoreError } from '../errors';
import { MM_PER_INCH } from '../units';
import type { Extent } from '../sizes/size';

/** What a share is taken of. */
export const SHARED = ['width', 'height', 'short side', 'area'] as const;
export type Shared = (typeof SHARED)[number];

/** A length on a ground: a share of it, pixels of it, or millimetres where it has a size on paper. */
export interface Length {
  readonly value: number;
  readonly unit: 'pct' | 'px' | 'mm';
  /** Of a share; the ground's shorter side for distances, its width for sizes, where nothing is said. */
  readonly of?: Shared;
}

const MOST_PX = 32_000;
const PATTERN = /^(-?[\d.]+)\s*(%|px|mm)?(?:\s+of\s+(?:the\s+)?(width|height|short side|area))?$/;

/**
 * A length as it is typed: "4%", "20" and "20px", "12mm", "18% of height".
 * @throws CoreError 'placement/length' saying what was expected
 */
export function readLength(text: unknown, where: string, least = 0): Length {
  const found = PATTERN.exec(typeof text === 'number' ? String(text) : typeof text === 'string' ? text.trim() : '');
  const value = Number(found?.[1]);
  const isShare = found?.[2] === '%';
  const most = isShare ? 100 : MOST_PX;
  if (!found || !Number.isFinite(value) || value < least || value > most || (found[3] && !isShare))
    throw new CoreError(
      'placement/length',
      `${where} takes a number from ${least} to ${most}, such as 4%, 20px or 12mm, got "${String(text)}".`,
      { where },
    );
  const unit = isShare ? 'pct' : found[2] === 'mm' ? 'mm' : 'px';
  return { value, unit, ...(found[3] ? { of: found[3] as Shared } : {}) };
}

/** The length as it is typed. */
export const lengthText = ({ value, unit, of }: Length): string =>
  unit === 'pct' ? `${value}%${of ? ` of ${of}` : ''}` : `${value}${unit}`;

/** Without a size on paper a ground is taken to have so many pixels to the inch. */
export const USUAL_PPI = 300;

/** A distance in pixels of a ground; a share is one of its shorter side. */
export function distancePx(length: Length, ground: Extent, ppi: number = USUAL_PPI): number {
  if (length.unit === 'px') return length.value;
  if (length.unit === 'mm') return (length.value / MM_PER_INCH) * ppi;
  return (length.value / 100) * sideOf(ground, length.of ?? 'short side');
}

/** How wide a mark of such proportions becomes, px of the ground; a share is one of the ground's width. */
export function widthPx(size: Length, ground: Extent, mark: Extent, ppi: number = USUAL_PPI): number {
  if (size.unit !== 'pct') return distancePx(size, ground, ppi);
  const share = size.value / 100;
  const aspect = mark.width / mark.height;
  // Of the height, as tall as that share; of the area, its extents cover that share.
  if (size.of === 'height') return share * ground.height * aspect;
  if (size.of === 'area') return Math.sqrt(share * ground.width * ground.height * aspect);
  return share * sideOf(ground, size.of ?? 'width');
}

const sideOf = ({ width, height }: Extent, of: Shared): number =>
  of === 'width'
    ? width
    : of === 'height'
      ? height
      : of === 'area'
        ? Math.sqrt(width * height)
        : Math.min(width, height);

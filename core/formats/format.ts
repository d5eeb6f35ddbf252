import type { Drawing } from '../artwork/drawing';
import { type Fields, type Values, flagField } from '../params';
import type { Raster } from '../raster/raster';
import type { WithParams } from '../registry';

/** One file before it is written: its page, and what stands on it. */
export interface FileContent {
  /** Size of the page, px: whole numbers for formats of pixels. */
  readonly widthPx: number;
  readonly heightPx: number;
  /** Pixels per inch where the file has a physical size. */
  readonly ppi: number | null;
  /** The page as a picture; formats of paths have none. */
  readonly raster: Raster | null;
  /** The paths where they lie on the page; there for every format of paths, unless its pixels are embedded. */
  readonly drawing: Drawing | null;
  /** Nothing of it is see-through. */
  readonly isOpaque?: boolean;
  /** A grey picture, such as a mask. */
  readonly isGrey?: boolean;
  /** The mark in squares of other sizes, for a format that holds several; the largest first. */
  readonly squares?: readonly Raster[];
}

/** What writing needs of its host: encoders are no business of core. */
export interface FormatHost {
  encode(kind: PixelKind, raster: Raster, options: EncodeOptions): Promise<Uint8Array>;
}
export type PixelKind = 'png' | 'webp' | 'avif' | 'tiff' | 'jpeg';
export interface EncodeOptions {
  readonly ppi: number | null;
  /** Nothing is see-through: no alpha is written. */
  readonly isOpaque?: boolean;
  readonly isGrey?: boolean;
  readonly [setting: string]: unknown;
}

export interface FormatDefinition<F extends Fields = Fields> extends WithParams<F> {
  readonly extension: string;
  /** Other endings that say the same. */
  readonly endings?: readonly string[];
  readonly mimeType: string;
  /** What it is made from. */
  readonly accepts: 'pixels' | 'paths';
  readonly hint: string;
  /** Whether it has no transparency, and so takes what lies on a flat ground alone. */
  needsGround?(params: Values<F>): boolean;
  /** What it puts round the page on each side, mm, such as room for crop marks. */
  aroundMm?(params: Values<F>): number;
  /** Nothing half see-through can be written. */
  readonly isHard?: boolean;
  /** Whether pixels are put inside a format of paths, which only somebody who asks for it gets. */
  embeds?(params: Values<F>): boolean;
  /** The sides of the squares that it holds. */
  squares?(params: Values<F>): readonly number[];
  /** @returns the file's bytes; the caller reads them back */
  write(file: FileContent, params: Values<F>, host: FormatHost): Promise<Uint8Array>;
}

export const defineFormat = <F extends Fields>(d: FormatDefinition<F>): FormatDefinition =>
  d as unknown as FormatDefinition;

/** A raster file as its host is to write it. */
export const encoded = (
  kind: PixelKind,
  { raster, ppi, isOpaque, isGrey }: FileContent,
  host: FormatHost,
  settings: object = {},
): Promise<Uint8Array> =>
  host.encode(kind, raster as Raster, {
    ...settings,
    ppi,
    isOpaque,
    isGrey,
  });

/** For formats of paths, of a mark that is made of pixels. */
export const embedField = flagField({
  label: 'Embed pixels',
  hint: 'A mark of pixels goes in as a picture; it is then no drawing.',
  initial: false,
});

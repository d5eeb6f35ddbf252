import type { Drawing } from '../artwork/drawing';
import type { Fields, Values } from '../params';
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
  /** The paths where they lie on the page; there for every format of paths. */
  readonly drawing: Drawing | null;
}

/** What writing needs of its host: encoders are no business of core. */
export interface FormatHost {
  encode(kind: 'png' | 'webp' | 'avif' | 'tiff' | 'jpeg', raster: Raster, options: EncodeOptions): Promise<Uint8Array>;
}
export interface EncodeOptions {
  readonly ppi: number | null;
  readonly [setting: string]: unknown;
}

export interface FormatDefinition<F extends Fields = Fields> extends WithParams<F> {
  readonly extension: string;
  readonly mimeType: string;
  /** What it is made from. */
  readonly accepts: 'pixels' | 'paths';
  readonly hint: string;
  /** @returns the file's bytes; the caller reads them back */
  write(file: FileContent, params: Values<F>, host: FormatHost): Promise<Uint8Array>;
}

export const defineFormat = <F extends Fields>(d: FormatDefinition<F>): FormatDefinition =>
  d as unknown as FormatDefinition;

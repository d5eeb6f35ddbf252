/** What was read back from a file after writing it, by a reader that shares no code with the writer. */
export interface FileReceipt {
  readonly format: string;
  /** In `unit`, as the file itself says. */
  readonly width: number;
  readonly height: number;
  readonly unit: 'px' | 'mm' | 'pt';
  readonly bytes: number;
  /** Pixels per inch where the file tells. */
  readonly ppi: number | null;
  readonly hasAlpha: boolean;
  /** Share of the page that is fully see-through, 0..1; null where nobody counts pixels. */
  readonly clearShare: number | null;
  readonly isInterlaced: boolean;
  readonly isSrgb: boolean;
  /** Chunk types of a PNG in order, so that metadata cannot hide. */
  readonly chunks: readonly string[];
  /** Filled outlines; null for formats of pixels. */
  readonly paths: number | null;
  readonly pictures: number;
  readonly fonts: number;
  /** The least and the most opaque pixel, 0..255; null where nobody counts pixels. */
  readonly alphaRange: readonly [number, number] | null;
  /** The smallest rectangle round all that is visible, in `unit`. */
  readonly extents: { readonly x: number; readonly y: number; readonly width: number; readonly height: number } | null;
  /** Whether all four corners are fully see-through. */
  readonly cornersClear: boolean | null;
  /** The name of its colour space; null where it tells none. */
  readonly profile: string | null;
  /** Its main colours, #rrggbb. */
  readonly colours: readonly string[];
  readonly sha256: string;
  /** Pixels of the file per pixel of the mark: above 1 it was enlarged. */
  readonly enlargement: number;
}

/** A receipt as it was stored, which may be from before there were other formats than PNG. */
export const completeReceipt = (stored: Partial<FileReceipt>): FileReceipt => ({
  ...{ format: 'png', width: 0, height: 0, unit: 'px' as const, bytes: 0, ppi: null, hasAlpha: true, clearShare: null },
  ...{ isInterlaced: false, isSrgb: true, chunks: [], paths: null, pictures: 1, fonts: 0, enlargement: 1 },
  ...{ alphaRange: null, extents: null, cornersClear: null, profile: null, colours: [], sha256: '' },
  ...stored,
});

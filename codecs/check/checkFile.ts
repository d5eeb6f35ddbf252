import { createHash } from 'node:crypto';
import { type PageFacts, measurePage } from '../../core/raster/measurePage';
import { kindOfFile, lookAt } from './lookAt';
import { isCoreError } from '../../core/errors';

/** One file as somebody else's program sees it. */
export interface CheckedFile {
  readonly file: string;
  readonly format: string | null;
  readonly width: number | null;
  readonly height: number | null;
  readonly unit: 'px' | 'mm' | 'pt' | null;
  readonly ppi: number | null;
  readonly hasAlpha: boolean | null;
  readonly alphaRange: readonly [number, number] | null;
  /** In `unit`. */
  readonly extents: { readonly x: number; readonly y: number; readonly width: number; readonly height: number } | null;
  readonly cornersClear: boolean | null;
  readonly profile: string | null;
  readonly interlaced: boolean | null;
  readonly colours: readonly string[];
  readonly fonts: number | null;
  readonly pictures: number | null;
  readonly bytes: number;
  readonly sha256: string;
  readonly problems: readonly string[];
}

/** A file's receipt: read by a reader that shares no code with our writers. What cannot be read is a problem of it. */
export async function checkFile(bytes: Uint8Array, file: string): Promise<CheckedFile> {
  const own = { file, bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') };
  try {
    const look = await lookAt(bytes, file);
    const facts = look.pixels && measurePage(look.pixels);
    const scale = look.pixels && { x: look.width / look.pixels.width, y: look.height / look.pixels.height };
    return {
      ...own,
      ...{ format: look.format, width: tidy(look.width), height: tidy(look.height), unit: look.unit },
      ppi: look.ppi === null ? null : tidy(look.ppi),
      hasAlpha: look.hasAlpha,
      ...{ alphaRange: facts?.alphaRange ?? null, cornersClear: facts?.cornersClear ?? null },
      extents: facts?.extents && scale ? scaled(facts.extents, scale) : null,
      ...{ profile: look.profile, interlaced: look.isInterlaced, colours: look.fills ?? facts?.colours ?? [] },
      ...{
        fonts: look.fonts,
        pictures: look.pictures,
        problems: [...look.problems, ...(facts ? problemsOf(facts) : [])],
      },
    };
  } catch (error) {
    if (!isCoreError(error)) throw error;
    return {
      ...own,
      ...{ format: kindOfFile(bytes), width: null, height: null, unit: null, ppi: null, hasAlpha: null },
      ...{ alphaRange: null, extents: null, cornersClear: null, profile: null, interlaced: null },
      ...{ colours: [], fonts: null, pictures: null, problems: [error.message] },
    };
  }
}

const tidy = (v: number) => Math.round(v * 1000) / 1000;
const scaled = (
  e: NonNullable<PageFacts['extents']>,
  by: { readonly x: number; readonly y: number },
): CheckedFile['extents'] => ({
  x: tidy(e.x * by.x),
  y: tidy(e.y * by.y),
  width: tidy(e.width * by.x),
  height: tidy(e.height * by.y),
});

const problemsOf = ({ extents, alphaRange }: PageFacts): string[] =>
  extents === null ? [alphaRange[1] === 0 ? 'shows nothing' : 'shows one flat colour'] : [];

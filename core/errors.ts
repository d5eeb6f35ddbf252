/** Every code with which core, server and command line name a fault that a person can do something about. */
export const errorCodes = {
  'raster/size-mismatch': 'The pixel data does not fit the width and height.',
  'params/invalid': 'A setting is outside what the stage accepts.',
  'registry/unknown': 'A definition of that name does not exist.',
  'recipe/invalid': 'The recipe is not one that this program can read.',
  'recipe/too-new': 'The recipe was made by a newer version.',
  'intake/no-page': 'The file has no such page.',
  'intake/no-paths': 'Nothing there is drawn as paths.',
  'trace/nothing': 'Nothing of the mark is large enough to be traced.',
  'cutout/nothing-left': 'Nothing of the mark is left after the cut-out.',
  'cutout/no-flat-ground': 'The border of the picture shows no flat ground.',
  'cutout/no-ink': 'No ink stands out from the paper.',
  'cutout/no-such-mark': 'The sheet holds no mark of that number.',
  'crop/empty': 'The crop region holds no pixel of the picture.',
  'crop/too-large': 'The crop region is far larger than the picture.',
  'memory/too-little': 'There is not enough memory for a picture of this size.',
  'type/empty': 'There is nothing to set in type.',
  'type/no-glyph': 'The typeface lacks a character.',
  'draw/empty': 'There is nothing drawn.',
  'size/impossible': 'The size asked for cannot be made.',
  'format/needs-paths': 'The format holds paths, and the mark has none.',
  'format/needs-ground': 'The format has no transparency, and nothing is to lie beneath the mark.',
  'format/no-opacity': 'The format holds nothing half see-through, and the mark has such parts.',
  'format/no-spot': 'A spot colour is for a variant of one colour, and this one has more.',
  'format/not-for-purpose': 'The purpose is not written as this format.',
  'purpose/too-large': 'The file is larger than its purpose allows.',
  'names/invalid': 'No file may have that name.',
  'names/clash': 'Two files would have one name.',
  'work/stopped': 'The work was stopped before it ended.',
  'work/too-long': 'The work took longer than it may and was ended.',
  'names/empty': 'The naming pattern gives an empty name.',
  'intake/empty': 'The file is empty.',
  'intake/unsupported': 'The file is of a kind that Tassel does not take in.',
  'intake/mislabelled': 'The file is not what its name says.',
  'intake/damaged': 'The file is damaged and cannot be decoded.',
  'intake/too-large': 'The file is larger than 80 MB.',
  'intake/too-many-pixels': 'The picture has more than 120 megapixels, or more than 32 000 px on one side.',
  'intake/too-small': 'The picture is too small to hold a mark.',
  'placement/invalid': 'The placement is not one that this program can read.',
  'placement/length': 'A length of a placement is not one.',
  'wall/problems': 'The wall has logos with problems that were not fixed.',
  'wall/unchecked': 'A logo of the wall was changed while it was checked.',
  'clip/damaged': 'The clip cannot be read or is damaged.',
  'clip/too-long': 'The clip is longer or larger than what is taken in.',
  'document/refused': 'The document is locked or already signed and is left as it is.',
  'document/damaged': 'The document is damaged.',
  'document/no-line': 'The page has no line to sign on.',
  'bundle/invalid': 'The bundle is damaged, or not one that this program can read.',
  'bundle/too-new': 'The bundle was made by a newer version.',
  'file/not-readable': 'The file cannot be read.',
  'file/not-writable': 'The file cannot be written.',
  'file/read-back': 'A file that was written did not read back as it should.',
  'cli/usage': 'The command was called with words it does not know.',
  'store/not-found': 'What was asked for does not exist, or no longer.',
  'store/conflict': 'Somebody else changed this in the meantime.',
  'store/duplicate-name': 'That name is taken.',
  'store/unavailable': 'The database does not answer just now.',
  'store/full': 'The disk is full, so nothing more can be stored. Make room on it, then try again.',
  'people/sign-in': 'Nothing is shown to who has not signed in.',
  'people/wrong': 'The name and the passphrase do not belong together.',
  'people/slow-down': 'There were too many wrong tries.',
  'people/only-looks': 'Lookers change nothing.',
  'people/weak': 'The passphrase is too short.',
  'people/last-keeper': 'The last keeper cannot be removed.',
  'request/invalid': 'The request is not one that the server understands.',
  'request/forbidden-origin': 'The request came from another site.',
  'server/internal': 'Something went wrong inside Tassel.',
} as const;

export type ErrorCode = keyof typeof errorCodes;

/**
 * A fault that a person can do something about: a bad file, a setting out of range, a missing row.
 * `message` says what was expected and what was got; `details` holds the plain values behind it (JSON only).
 */
export class CoreError extends Error {
  readonly code: ErrorCode;
  readonly details: Record<string, unknown>;

  constructor(code: ErrorCode, message?: string, details: Record<string, unknown> = {}, options?: { cause?: unknown }) {
    super(message ?? errorCodes[code], options);
    this.name = 'CoreError';
    this.code = code;
    this.details = details;
  }
}

/** Narrow an unknown caught value to a CoreError. */
export const isCoreError = (error: unknown): error is CoreError => error instanceof CoreError;

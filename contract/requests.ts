import { type InferType, array, boolean, mixed, number, object, string } from 'yup';
import { CoreError } from '../core/errors';

/** A revision or a count of changes, as the database can hold it. */
const counted = number().integer().positive().max(2_147_483_647).required();
const hex = string().matches(/^#[0-9a-f]{6}$/i, 'a colour such as #1a2b3c');

const paletteColour = object({ name: string().trim().min(1).max(60).required(), hex: hex.required() }).noUnknown();
const gradient = object({
  name: string().trim().min(1).max(60).required(),
  stops: array(object({ at: number().min(0).max(1).required(), colour: hex.required() }).noUnknown())
    .min(2)
    .max(12)
    .required(),
}).noUnknown();
const anyObject = mixed<Record<string, unknown>>(
  (v): v is Record<string, unknown> => typeof v === 'object' && v !== null,
);

export const saveRecipeRequest = object({
  basedOn: counted,
  why: string().trim().min(1).max(200).required(),
  recipe: anyObject.required(),
}).noUnknown();
export type SaveRecipeRequest = InferType<typeof saveRecipeRequest>;

export const changeMarkRequest = object({
  /** The mark's `details` as they were seen. */
  basedOn: counted,
  name: string().trim().min(1).max(120),
  state: string().oneOf(['working', 'finished']),
  kind: string().oneOf(['logo', 'signature']),
  /** Moves it to another brand. */
  brandId: string().uuid(),
  notes: object({
    source: string().trim().max(500).defined(),
    permission: string().trim().max(500).defined(),
    until: string()
      .matches(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, 'until must be a day such as 2026-12-31')
      .nullable()
      .defined(),
  })
    .noUnknown()
    .default(undefined)
    .optional(),
}).noUnknown();
export type ChangeMarkRequest = InferType<typeof changeMarkRequest>;

export const addBrandRequest = object({
  name: string().trim().min(1).max(120).required(),
  /** Without one the brand starts with no colours. */
  palette: array(paletteColour).max(40).default(undefined).optional(),
}).noUnknown();
export type AddBrandRequest = InferType<typeof addBrandRequest>;

/** A brand as it is to be from now on; what is not named stays. */
export const changeBrandRequest = object({
  /** The brand's `edition` as it was seen. */
  basedOn: counted,
  palette: array(paletteColour).max(40).default(undefined).optional(),
  gradients: array(gradient).max(20).default(undefined).optional(),
  /** The naming pattern that new marks start with. */
  pattern: string().trim().min(1).max(120),
  /** The variants that new marks start with; null for the usual ones. */
  startSet: array(anyObject.required()).min(1).max(40).nullable().default(undefined).optional(),
  /** The size lines that the brand delivers by; null for none. */
  standardLines: array(anyObject.required()).min(1).max(200).nullable().default(undefined).optional(),
  ownPurposes: array(anyObject.required()).max(60).default(undefined).optional(),
}).noUnknown();
export type ChangeBrandRequest = InferType<typeof changeBrandRequest>;

/** A board of a mark's variants: on colours, and on grounds of its brand by their ids. */
export const boardRequest = object({
  format: string<'png' | 'pdf'>().oneOf(['png', 'pdf']).required(),
  grounds: array(
    object({
      name: string().trim().min(1).max(120).required(),
      hex: hex.nullable().defined(),
      /** A photo of the brand's grounds; null for a colour. */
      id: string().uuid().nullable().defined(),
    }).noUnknown(),
  )
    .min(1)
    .max(12)
    .required(),
}).noUnknown();
export type BoardRequest = InferType<typeof boardRequest>;

/** A ground: a colour of this name. Photos come as files. */
export const addGroundRequest = object({
  name: string().trim().min(1).max(120).required(),
  hex: hex.required(),
}).noUnknown();

/** What is changed of a ground; what is not named stays. */
export const changeGroundRequest = object({
  name: string().trim().min(1).max(120),
  isProof: boolean(),
}).noUnknown();

/** Marks that share another's original, each with its own recipe. */
export const addSiblingsRequest = object({
  basedOn: counted,
  marks: array(object({ name: string().trim().min(1).max(120).required(), recipe: anyObject.required() }).noUnknown())
    .min(1)
    .max(60)
    .required(),
}).noUnknown();
export type AddSiblingsRequest = InferType<typeof addSiblingsRequest>;

/** What is picked on a page of a PDF file: some of its objects, or one of its pictures. */
export const pickRequest = object({
  sha: string()
    .matches(/^[0-9a-f]{64}$/)
    .required(),
  name: string().trim().min(1).max(200).required(),
  page: counted,
  markName: string().trim().min(1).max(120).required(),
  kind: string<'logo' | 'signature'>().oneOf(['logo', 'signature']).default(undefined).optional(),
  objects: array(number().integer().min(0).required()).max(20_000).required(),
  picture: number().integer().min(0).nullable().defined(),
}).noUnknown();
export type PickRequest = InferType<typeof pickRequest>;

type PenStroke = [number, number, number][];
const isPenPoint = (v: unknown) =>
  Array.isArray(v) && v.length === 3 && v.every((n) => typeof n === 'number' && Math.abs(n) < 1e5);
const isStroke = (v: unknown) => Array.isArray(v) && v.length >= 1 && v.length <= 8000 && v.every(isPenPoint);
// One test for all of it: a schema a point would take seconds for a page of writing.
const strokes = mixed<PenStroke[]>((v): v is PenStroke[] => Array.isArray(v) && v.length <= 600 && v.every(isStroke))
  .typeError('strokes must be at most 600 lists of 1 to 8000 points [x, y, pressure]')
  .test('some', 'a stroke to draw', (v) => v !== undefined && v.length > 0);
const range = (min: number, max: number) => number().min(min).max(max).required();

/** A mark drawn on the pad or typed; with `capture`, a simulated photograph of it. */
export const makeMarkRequest = object({
  name: string().trim().min(1).max(100).required(),
  colour: hex.required(),
  kind: string<'logo' | 'signature'>().oneOf(['logo', 'signature']),
  drawn: object({
    strokes: strokes.required('a stroke to draw'),
    pen: object({ width: range(0.5, 80), thinning: range(0, 1), smoothing: range(0, 1), bySpeed: boolean().required() })
      .noUnknown()
      .required(),
  })
    .noUnknown()
    .default(undefined)
    .optional(),
  typed: object({
    lines: array(string().max(80).defined()).min(1).max(8).required(),
    typeface: string().max(40).required(),
    sizePx: range(8, 600),
    spacing: range(-0.2, 1),
    lineHeight: range(0.6, 3),
    align: string<'left' | 'centre' | 'right'>().oneOf(['left', 'centre', 'right']).required(),
  })
    .noUnknown()
    .default(undefined)
    .optional(),
  capture: object({
    paper: string<'white' | 'cream' | 'grey' | 'envelope'>().oneOf(['white', 'cream', 'grey', 'envelope']).required(),
    lines: string<'none' | 'ruled' | 'squared'>().oneOf(['none', 'ruled', 'squared']).required(),
    light: string<'even' | 'lamp' | 'shadow' | 'flash'>().oneOf(['even', 'lamp', 'shadow', 'flash']).required(),
    tiltDeg: range(-30, 30),
    noise: range(0, 20),
    blurPx: range(0, 4),
    quality: range(30, 100),
    hasPlace: boolean().required(),
    widthPx: range(400, 4000).integer(),
  })
    .noUnknown()
    .default(undefined)
    .optional(),
}).noUnknown();
export type MakeMarkRequest = InferType<typeof makeMarkRequest>;

/** A step back or forth, from the revision that is on the screen. */
export const stepRequest = object({ basedOn: counted }).noUnknown();
export type StepRequest = InferType<typeof stepRequest>;

/** To any revision of the mark, from the one that is on the screen. */
export const goToRequest = object({ basedOn: counted, revision: counted }).noUnknown();
export type GoToRequest = InferType<typeof goToRequest>;

/** What a revision is called; null for nothing. */
export const nameRevisionRequest = object({
  name: string().trim().min(1).max(80).nullable().defined(),
}).noUnknown();

/** One delivery of many marks of a brand, each as it is seen. */
export const addBrandDeliveryRequest = object({
  marks: array(object({ id: string().uuid().required(), basedOn: counted }).noUnknown())
    .min(1)
    .max(200)
    .required(),
}).noUnknown();
export type AddBrandDeliveryRequest = InferType<typeof addBrandDeliveryRequest>;

export const addDeliveryRequest = object({ basedOn: counted }).noUnknown();
export type AddDeliveryRequest = InferType<typeof addDeliveryRequest>;

interface Checker<T> {
  validate(value: unknown, options: { strict: boolean; abortEarly: boolean }): Promise<T>;
}

/** A request body checked against its schema. @throws CoreError 'request/invalid' saying what was expected */
export async function checkBody<T>(schema: Checker<T>, value: unknown): Promise<T> {
  try {
    return await schema.validate(value, { strict: true, abortEarly: false });
  } catch (cause) {
    const reasons = (cause as { errors?: string[] }).errors ?? [(cause as Error).message];
    throw new CoreError('request/invalid', `The request does not fit: ${reasons.join('; ')}.`, { reasons }, { cause });
  }
}

const second = number().min(0).max(36_000).nullable().defined();
const runOptions = object({
  format: string().oneOf(['same', 'jpeg', 'png', 'webp', 'tiff']).required(),
  quality: number().min(40).max(100).required(),
  keepsLocation: boolean().required(),
  subsampling: string().oneOf(['4:4:4', '4:2:0']),
  isProgressive: boolean(),
  longEdgePx: number().integer().min(8).max(16_384).nullable().defined(),
  pattern: string().trim().min(1).max(120).required(),
  clip: object({
    from: second,
    until: second,
    fade: number().min(0).max(30).required(),
    cutFrom: second,
    cutUntil: second,
  })
    .noUnknown()
    .default(undefined)
    .optional(),
}).noUnknown();

/** A mark on a clear frame as large as a clip's picture. */
export const overlayRequest = object({
  form: string().oneOf(['png', 'prores4444', 'webm', 'key-green', 'key-blue']).required(),
  seconds: number().min(0.1).max(600).required(),
  fade: number().min(0).max(30).required(),
}).noUnknown();

export const addPlacementRequest = object({
  name: string().trim().min(1).max(200).required(),
  rule: anyObject.required(),
  options: runOptions.default(undefined).optional(),
  /** Its grounds come along. */
  like: string().uuid(),
}).noUnknown();

export const changePlacementRequest = object({
  /** The placement's `edition` as it was seen. */
  basedOn: counted,
  name: string().trim().min(1).max(200),
  rule: anyObject.default(undefined).optional(),
  options: runOptions.default(undefined).optional(),
}).noUnknown();

export const addOwnGroundsRequest = object({
  grounds: array(string().uuid().required()).min(1).max(300).required(),
}).noUnknown();

/** What differs on one ground alone; null for nothing any more. */
export const changeRunGroundRequest = object({ change: anyObject.nullable().defined() }).noUnknown();

export const lookRequest = object({
  grounds: array(string().uuid().required()).min(1).max(24).required(),
  /** Whether every place by name is tried as well. */
  corners: boolean().default(false),
}).noUnknown();

const sheetOrder = {
  markId: string().uuid().required(),
  variant: string().max(80).required(),
  paper: string().max(60).required(),
  mat: string().max(60).nullable().defined(),
  ppi: number().min(36).max(2400).required(),
  at: string().max(40).required(),
  inset: string().max(40).required(),
  size: string().max(40).required(),
  /** A photo of the brand's grounds that fills the sheet. */
  groundId: string().uuid().nullable().defined(),
  format: string().oneOf(['pdf', 'tiff', 'png']).required(),
};
const sheetName = string().trim().min(1).max(160).required();
export const sheetRequest = object({ ...sheetOrder, name: sheetName }).noUnknown();

/** A print sheet to keep; one that is kept already by its id. */
export const keepPieceRequest = object({
  id: string().uuid(),
  name: sheetName,
  order: object(sheetOrder).noUnknown().required(),
}).noUnknown();
export const changePieceRequest = object({
  state: string().oneOf(['working', 'ready', 'archived']).required(),
}).noUnknown();

const onPage = number().min(-20_000).max(20_000).required();
export const signRequest = object({
  markId: string().uuid().required(),
  ink: string().oneOf(['black', 'blue', 'own']).required(),
  name: string().trim().min(1).max(200).required(),
  places: array(
    object({
      page: number().integer().min(1).max(100_000).required(),
      box: object({ x: onPage, y: onPage, width: onPage.positive(), height: onPage.positive() }).noUnknown().required(),
    })
      .noUnknown()
      .required(),
  )
    .min(1)
    .max(40)
    .required(),
  /** Words on lines, such as a date. */
  typed: array(
    object({
      text: string().trim().min(1).max(120).required(),
      page: number().integer().min(1).max(100_000).required(),
      x: onPage,
      y: onPage,
    })
      .noUnknown()
      .required(),
  )
    .max(20)
    .default([]),
}).noUnknown();

const degrees = number().min(-180).max(180).required();
export const surfaceRequest = object({
  markId: string().uuid().required(),
  variant: string().max(80).required(),
  /** A picture to look at, or colours and mask in print size as a ZIP. */
  form: string().oneOf(['look', 'pair']).required(),
  surface: object({
    kind: string().oneOf(['cylinder', 'sign']).required(),
    colour: hex.required(),
    part: number().min(0.02).max(1).required(),
    turnDeg: degrees,
    tiltDeg: number().min(0).max(60).required(),
    rise: number().min(-1).max(1).required(),
    lightDeg: number().min(-90).max(90).required(),
    gloss: number().min(0).max(1).required(),
  })
    .noUnknown()
    .required(),
}).noUnknown();

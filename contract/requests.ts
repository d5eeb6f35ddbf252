import { type InferType, array, mixed, number, object, string } from 'yup';
import { CoreError } from '../core/errors';

const hex = string().matches(/^#[0-9a-f]{6}$/i, 'a colour such as #1a2b3c');

const paletteColour = object({ name: string().trim().min(1).max(60).required(), hex: hex.required() }).noUnknown();
const anyObject = mixed<Record<string, unknown>>((v): v is Record<string, unknown> => typeof v === 'object' && v !== null);

export const saveRecipeRequest = object({
  basedOn: number().integer().positive().required(),
  why: string().trim().min(1).max(200).required(),
  recipe: anyObject.required(),
}).noUnknown();
export type SaveRecipeRequest = InferType<typeof saveRecipeRequest>;

export const changeMarkRequest = object({
  name: string().trim().min(1).max(120),
  state: string().oneOf(['working', 'finished']),
  kind: string().oneOf(['logo', 'signature']),
}).noUnknown();
export type ChangeMarkRequest = InferType<typeof changeMarkRequest>;

export const addBrandRequest = object({
  name: string().trim().min(1).max(120).required(),
  palette: array(paletteColour).max(40).default([]),
}).noUnknown();
export type AddBrandRequest = InferType<typeof addBrandRequest>;

/** A brand's palette as it is to be from now on. */
export const changeBrandRequest = object({ palette: array(paletteColour).max(40).required() }).noUnknown();
export type ChangeBrandRequest = InferType<typeof changeBrandRequest>;

/** Marks that share another's original, each with its own recipe. */
export const addSiblingsRequest = object({
  marks: array(object({ name: string().trim().min(1).max(120).required(), recipe: anyObject.required() }).noUnknown()).min(1).max(60).required(),
}).noUnknown();
export type AddSiblingsRequest = InferType<typeof addSiblingsRequest>;

export const addDeliveryRequest = object({ basedOn: number().integer().positive().required() }).noUnknown();
export type AddDeliveryRequest = InferType<typeof addDeliveryRequest>;

interface Checker<T> { validate(value: unknown, options: { strict: boolean; abortEarly: boolean }): Promise<T> }

/** A request body checked against its schema. @throws CoreError 'request/invalid' saying what was expected */
export async function checkBody<T>(schema: Checker<T>, value: unknown): Promise<T> {
  try {
    return await schema.validate(value, { strict: true, abortEarly: false });
  } catch (cause) {
    const reasons = (cause as { errors?: string[] }).errors ?? [(cause as Error).message];
    throw new CoreError('request/invalid', `The request does not fit: ${reasons.join('; ')}.`, { reasons }, { cause });
  }
}

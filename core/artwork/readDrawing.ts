import * as yup from 'yup';
import { CoreError } from '../errors';
import { coordsOf } from '../vector/path';
import type { Drawing } from './drawing';

declare const TextDecoder: new () => { decode(bytes: Uint8Array): string };
declare const TextEncoder: new () => { encode(text: string): Uint8Array };

const hex = yup
  .string()
  .matches(/^#[0-9a-f]{6}$/)
  .required();
const paint = yup.object({ kind: yup.string().oneOf(['colour', 'linear', 'radial']).required(), hex: hex.optional() });
const drawing = yup.object({
  widthPx: yup.number().positive().max(100_000).required(),
  heightPx: yup.number().positive().max(100_000).required(),
  shapes: yup
    .array()
    .of(
      yup.object({
        id: yup.string().required(),
        rule: yup.string().oneOf(['nonzero', 'evenodd']).required(),
        opacity: yup.number().min(0).max(1).required(),
        paint: paint.required(),
        path: yup
          .object({
            verbs: yup
              .string()
              .defined()
              .matches(/^[MLCZ]*$/),
            coords: yup.mixed().required(),
          })
          .required(),
      }),
    )
    .required(),
});

/** A working drawing from the JSON that it is kept as. @throws CoreError 'recipe/invalid' for anything else */
export function readDrawing(bytes: Uint8Array): Drawing {
  try {
    const value = drawing.validateSync(JSON.parse(new TextDecoder().decode(bytes)), {
      strict: true,
    }) as unknown as Drawing;
    for (const { path } of value.shapes) {
      const expected = [...path.verbs].reduce((sum, verb) => sum + coordsOf(verb), 0);
      if (!Array.isArray(path.coords) || path.coords.length !== expected || !path.coords.every(Number.isFinite)) {
        throw new Error(`a path of ${path.verbs.length} commands needs ${expected} coordinates`);
      }
    }
    return value;
  } catch (cause) {
    throw new CoreError(
      'recipe/invalid',
      `The working drawing cannot be read: ${(cause as Error).message}.`,
      {},
      { cause },
    );
  }
}

export const writeDrawing = (value: Drawing): Uint8Array => new TextEncoder().encode(JSON.stringify(value));

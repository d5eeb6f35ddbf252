import { array, mixed, number, object, string } from 'yup';
import type { WallProblem } from '../core/wall/auditLogo';
import type { Optics } from '../core/wall/opticalSize';
import type { WallRule } from '../core/wall/wallRule';

const anyObject = mixed<Record<string, unknown>>(
  (v): v is Record<string, unknown> => typeof v === 'object' && v !== null,
);
const name = string().trim().min(1).max(200);

export const addWallRequest = object({
  name: name.required(),
  rule: anyObject.default(undefined).optional(),
}).noUnknown();

export const changeWallRequest = object({
  /** The wall's `edition` as it was seen. */
  basedOn: number().integer().positive().max(2_147_483_647).required(),
  name,
  rule: anyObject.default(undefined).optional(),
}).noUnknown();

/** Marks that get a slot each. */
export const addSlotsRequest = object({
  marks: array(string().uuid().required()).min(1).max(200).required(),
}).noUnknown();

export const changeSlotRequest = object({
  shows: string<'file' | 'mark'>().oneOf(['file', 'mark']),
  /** A variant of the mark; null for its own colours. */
  variant: string().max(80).nullable().default(undefined).optional(),
  squeeze: number().min(0.1).max(10),
  /** Where it stands among all, from 0. */
  position: number().integer().min(0).max(10_000),
}).noUnknown();

/** Slots that are mended as far as that goes in one press; all of the wall where none is named. */
export const mendRequest = object({
  slots: array(string().uuid().required()).max(500).default(undefined).optional(),
}).noUnknown();

export const lookAtWallRequest = object({
  slots: array(string().uuid().required()).min(1).max(24).required(),
}).noUnknown();

export const wallOutRequest = object({
  form: string<'files' | 'picture' | 'pdf'>().oneOf(['files', 'picture', 'pdf']).required(),
  /** What is to become of problems that the server's own check finds: they are refused where nothing is said. */
  problems: string<'refuse' | 'fix' | 'keep'>().oneOf(['refuse', 'fix', 'keep']).default('refuse'),
}).noUnknown();

/** Which of a wall's files are not what somebody might take them for. Each list holds names of files. */
export interface WallReceipt {
  readonly wall: string;
  readonly logos: number;
  readonly files: number;
  readonly fixed: readonly { readonly file: string; readonly problems: readonly SlotProblem[] }[];
  /** Exported with problems, because somebody asked for it or nothing helps. */
  readonly withProblems: readonly { readonly file: string; readonly problems: readonly SlotProblem[] }[];
  /** Copies, and logos whose mark was removed. */
  readonly leftOut: readonly string[];
  /** Logos of pixels, which have no SVG. */
  readonly withoutSvg: readonly string[];
}
/** Header of a wall's export that tells the counts of its receipt, as JSON. */
export const WALL_RECEIPT_HEADER = 'X-Tassel-Wall';

/** What can be wrong with a slot: with its file, or with it among the others. */
export type SlotProblem = WallProblem | 'older' | 'gone';

/** A slot's picture, looked at. */
export interface SlotLook {
  /** Of `picture`, in the proportions that it is shown in. */
  readonly width: number;
  readonly height: number;
  readonly optics: Optics;
  /** Address of what is shown in the slot. */
  readonly picture: string;
  readonly hasPaths: boolean;
  /** How many times as wide as it should be it seems; 1 where it is not stretched. */
  readonly stretch: number;
  /** How far it is enlarged beyond its pixels in this slot; 1 where it is not. */
  readonly enlarged: number;
  /** Of the mark's variants the one that can be seen best here, where the shown one is lost. */
  readonly best: string | null;
  /** The ground that its edges still hold; null where they are clean. */
  readonly oldGround: string | null;
}

export interface SlotView {
  readonly id: string;
  readonly markId: string;
  readonly markName: string;
  readonly revision: number;
  /** The file that it replaces. */
  readonly file: string;
  /** What that is, such as JPEG. */
  readonly format: string;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly shows: 'file' | 'mark' | null;
  readonly variant: string | null;
  readonly variants: readonly { readonly id: string; readonly name: string }[];
  readonly squeeze: number;
  readonly problems: readonly SlotProblem[];
  /** Null until somebody looked. */
  readonly look: SlotLook | null;
}

export interface WallView {
  readonly id: string;
  readonly brandId: string;
  readonly name: string;
  readonly rule: WallRule;
  readonly edition: number;
  readonly slots: readonly SlotView[];
}

/** A wall in a list. */
export interface WallCard {
  readonly id: string;
  readonly name: string;
  readonly rule: WallRule;
  readonly slotCount: number;
  /** Addresses of its first pictures. */
  readonly pictures: readonly string[];
}

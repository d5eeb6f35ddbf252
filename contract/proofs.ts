import { number, object, string } from 'yup';

/** What a proof link shows. */
export type ProofKind = 'board' | 'variants' | 'wall' | 'delivery';

const day = string().matches(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, 'a day such as 2026-12-31');

export const addProofRequest = object({
  kind: string<ProofKind>().oneOf(['board', 'variants', 'wall', 'delivery']).required(),
  /** Of a mark for its board or variants, of a wall or of a delivery. */
  targetId: string().uuid().required(),
  title: string().trim().min(1).max(200),
  /** The last day; null for no end. */
  endsOn: day.nullable().default(null),
}).noUnknown();

/** Closes a link, opens it again, or gives it another end. */
export const changeProofRequest = object({
  isClosed: string<'yes' | 'no'>().oneOf(['yes', 'no']),
  endsOn: day.nullable().default(undefined).optional(),
}).noUnknown();

/** What somebody says who opened a link. */
export const answerRequest = object({
  kind: string<'yes' | 'note'>().oneOf(['yes', 'note']).required(),
  picture: number().integer().min(0).max(10_000).nullable().default(null),
  x: number().min(0).max(1).nullable().default(null),
  y: number().min(0).max(1).nullable().default(null),
  who: string().trim().max(80).default(''),
  words: string().trim().max(2000).default(''),
}).noUnknown();

export interface ProofPicture {
  readonly title: string;
  readonly words: string;
  /** Its address; null where a browser cannot show it. */
  readonly picture: string | null;
  readonly width: number;
  readonly height: number;
  readonly isOpaque: boolean;
  /** The background it is meant for, a colour. */
  readonly ground: string;
}

export interface ProofAnswer {
  readonly id: number;
  readonly kind: 'yes' | 'note';
  readonly picture: number | null;
  readonly x: number | null;
  readonly y: number | null;
  readonly who: string;
  readonly words: string;
  readonly madeAt: string;
}

/** What is shown to whoever opens the link. */
export interface ProofPage {
  readonly title: string;
  readonly brand: string;
  readonly kind: ProofKind;
  /** Counted from the first proof of the same thing: another number only where it shows something else. */
  readonly version: number;
  readonly madeAt: string;
  /** Whether there is something newer than what is shown. */
  readonly isNewer: boolean;
  readonly endsOn: string | null;
  readonly pictures: readonly ProofPicture[];
  readonly answers: readonly ProofAnswer[];
}

/** A link in the list of a brand's. */
export interface ProofView {
  readonly id: string;
  readonly path: string;
  readonly kind: ProofKind;
  readonly title: string;
  readonly targetId: string;
  readonly version: number;
  readonly isNewer: boolean;
  readonly endsOn: string | null;
  readonly state: 'open' | 'closed' | 'ended';
  readonly openedCount: number;
  readonly openedAt: string | null;
  readonly createdAt: string;
  readonly answers: readonly ProofAnswer[];
}

import { object, string } from 'yup';

export const addLiveRequest = object({
  markId: string().uuid().required(),
  lineId: string().min(1).max(200).required(),
}).noUnknown();

/** A steady address of a size line, in the list of a brand's. */
export interface LiveView {
  readonly id: string;
  readonly path: string;
  readonly markId: string;
  readonly markName: string;
  readonly lineId: string;
  readonly name: string;
  /** Of the newest finished file, bytes; null while the first is being made. */
  readonly size: number | null;
  readonly madeAt: string | null;
  readonly problem: string | null;
  readonly fetchedCount: number;
  readonly fetchedAt: string | null;
}

import type pg from 'pg';

interface Place {
  readonly connection: pg.ClientConfig;
  readonly database: string;
}
interface Counts {
  readonly marks: number;
  readonly blobs: number;
}

export function backUp(where: Place, file: string): Counts;
export function bringBack(where: Place, file: string): Counts & { readonly former: string | null };

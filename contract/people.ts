import { object, string } from 'yup';

export type Role = 'keeper' | 'looker';

export const signInRequest = object({
  name: string().trim().min(1).max(80).required(),
  passphrase: string().min(1).max(1000).required(),
}).noUnknown();

export const addPersonRequest = object({
  name: string().trim().min(1).max(80).required(),
  role: string<Role>().oneOf(['keeper', 'looker']).required(),
  passphrase: string().min(1).max(1000).required(),
}).noUnknown();

/** Who is signed in; nobody where nobody is asked. */
export interface MeView {
  readonly name: string | null;
  readonly role: Role;
}

export interface PersonView {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly createdAt: string;
}

export interface ChangeView {
  readonly id: number;
  readonly madeBy: string;
  readonly what: string;
  readonly madeAt: string;
}

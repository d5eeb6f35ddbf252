import { AsyncLocalStorage } from 'node:async_hooks';
import type { Role } from '../../contract/people';

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
}

/** Who asked for what is being done; nobody where nobody is asked for a name. */
export const currentPerson = new AsyncLocalStorage<Person>();

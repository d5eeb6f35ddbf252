import { CoreError } from './errors';
import type { Fields } from './params';

export interface Definition {
  readonly id: string;
  readonly title: string;
}

export interface Registry<D extends Definition> {
  /** In the order in which they were listed. */
  readonly all: readonly D[];
  readonly ids: readonly string[];
  has(id: string): boolean;
  /** @throws CoreError 'registry/unknown' naming the id and what exists */
  get(id: string): D;
}

/**
 * A closed set of definitions, found by id.
 * @throws Error (our bug) when two definitions share an id
 */
export function defineRegistry<D extends Definition>(noun: string, ...definitions: D[]): Registry<D> {
  const byId = new Map<string, D>();
  for (const definition of definitions) {
    if (byId.has(definition.id)) throw new Error(`Two ${noun} definitions share the id "${definition.id}"`);
    byId.set(definition.id, definition);
  }
  const ids = [...byId.keys()];
  return {
    all: definitions,
    ids,
    has: (id) => byId.has(id),
    get(id) {
      const found = byId.get(id);
      if (!found)
        throw new CoreError(
          'registry/unknown',
          ids.length ? `There is no ${noun} "${id}"; there are ${ids.join(', ')}.` : `There is no ${noun} "${id}".`,
          { id, noun },
        );
      return found;
    },
  };
}

/** A definition with settings. */
export interface WithParams<F extends Fields = Fields> extends Definition {
  readonly params: F;
}

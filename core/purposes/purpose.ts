import { formats } from '../formats';
import { initialValues } from '../params';
import type { Definition } from '../registry';
import { sizes } from '../sizes';

/** A choice from a registry with its settings. */
export interface Part {
  readonly id: string;
  readonly params: Readonly<Record<string, unknown>>;
}

export interface PurposeDefinition extends Definition {
  /** What a new size line of this purpose starts with. */
  readonly size: Part;
  readonly format: Part;
  readonly hint: string;
}

/** A purpose by what is special about it: settings that are left out start as their definitions say. */
export function definePurpose(
  d: Omit<PurposeDefinition, 'size' | 'format'> & { size: Part; format?: Part },
): PurposeDefinition {
  const format = d.format ?? { id: 'png', params: {} };
  return {
    ...d,
    size: { id: d.size.id, params: { ...initialValues(sizes.get(d.size.id).params), ...d.size.params } },
    format: { id: format.id, params: { ...initialValues(formats.get(format.id).params), ...format.params } },
  };
}

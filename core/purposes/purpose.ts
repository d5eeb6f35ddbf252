import { formats } from '../formats';
import { type Fields, type Values, initialValues } from '../params';
import type { WithParams } from '../registry';
import { sizes } from '../sizes';

/** A choice from a registry with its settings. */
export interface Part {
  readonly id: string;
  readonly params: Readonly<Record<string, unknown>>;
}

/** What a purpose does to a variant on its way into a file. */
export interface Treatment {
  /** Takes the place of the variant's own fill; surrounds and casts are then left out as well. */
  readonly fill?: Part;
  /** A flat colour beneath, so that nothing is see-through. */
  readonly ground?: string;
  /** The longest side that the purpose allows, px. */
  readonly mostPx?: number;
  /** A second file beside the first: the mark in one of black and white, the rest in the other. */
  readonly mask?: 'white' | 'black';
  /** Of a pair: the file with the colours has no transparency, its colours carried on into the clear part. */
  readonly isOpaque?: boolean;
}

export interface PurposeDefinition<F extends Fields = Fields> extends WithParams<F> {
  /** What a new size line of this purpose starts with. */
  readonly size: Part;
  readonly format: Part;
  readonly hint: string;
  /** The only formats that serve it; all where nothing is said. */
  readonly formats?: readonly string[];
  treat?(params: Values<F>): Treatment;
}

type Given<F extends Fields> = Omit<PurposeDefinition<F>, 'size' | 'format' | 'params'> & {
  size: Part;
  format?: Part;
  params?: F;
};

/** A purpose by what is special about it: settings that are left out start as their definitions say. */
export function definePurpose<F extends Fields>(d: Given<F>): PurposeDefinition {
  const format = d.format ?? { id: 'png', params: {} };
  return {
    ...d,
    params: d.params ?? {},
    size: { id: d.size.id, params: { ...initialValues(sizes.get(d.size.id).params), ...d.size.params } },
    format: { id: format.id, params: { ...initialValues(formats.get(format.id).params), ...format.params } },
  } as unknown as PurposeDefinition;
}

import { CoreError } from '../errors';
import { formats } from '../formats';
import { checkValues } from '../params';
import { purposes } from '../purposes';
import type { Part, Treatment } from '../purposes/purpose';
import type { SizeLine, Variant } from './recipe';

/** What a file is made by: a line of a recipe, or as much of one. */
export interface FileOrder {
  readonly size: Part;
  readonly format: Part;
  /** The size is made smaller where it would enlarge a mark of pixels. */
  readonly fitted?: true;
  /** What the file is for; nothing special where it is left out. */
  readonly purpose?: Part;
  /** The second file of a pair. */
  readonly role?: 'mask';
}

/** What a size line orders: one file, or a pair. */
export function ordersOf({ size, format, fitted, purpose, purposeParams }: SizeLine): FileOrder[] {
  const order = { size, format, ...(fitted && { fitted }), purpose: { id: purpose, params: purposeParams ?? {} } };
  return treatmentOf(order).mask ? [order, { ...order, role: 'mask' }] : [order];
}

/** What its purpose does to a file. */
export function treatmentOf({ purpose }: Pick<FileOrder, 'purpose'>): Treatment {
  if (!purpose) return {};
  const { params, treat } = purposes.get(purpose.id);
  return treat?.(checkValues(params, purpose.params, purpose.id) as never) ?? {};
}

/** A variant as its file shows it: in the purpose's own fill where it has one, with nothing round it. */
export function treated(variant: Variant, order: Pick<FileOrder, 'purpose'>): Variant {
  const { fill } = treatmentOf(order);
  return fill ? { ...variant, fill, surrounds: [], casts: [] } : variant;
}

/**
 * Tells what cannot be, whatever the mark.
 * @throws CoreError 'format/needs-ground', 'format/not-for-purpose'
 */
export function checkOrder(order: FileOrder): void {
  const format = formats.get(order.format.id);
  const purpose = order.purpose && purposes.get(order.purpose.id);
  if (purpose?.formats && !purpose.formats.includes(format.id)) {
    const known = purpose.formats.map((id) => formats.get(id).title).join(' or ');
    throw new CoreError('format/not-for-purpose', `${purpose.title} is written as ${known}, not as ${format.title}.`);
  }
  if (treatmentOf(order).ground || order.role === 'mask') return;
  if (!format.needsGround?.(order.format.params as never)) return;
  throw new CoreError(
    'format/needs-ground',
    `${wordsFor(order.format)} has no transparency: a box would come back round the mark. Use it for a stamp or a ` +
      'key colour, or choose PNG.',
    { format: format.id },
  );
}

const wordsFor = ({ id, params }: Part) =>
  id === 'tiff' && params.depth === '1' ? 'TIFF of 1 bit' : formats.get(id).title;

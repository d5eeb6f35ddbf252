import type { Decoration } from '../decoration';
import { defineRegistry } from '../registry';

export const surrounds = defineRegistry<Decoration>('surround');

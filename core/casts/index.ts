import type { Decoration } from '../decoration';
import { defineRegistry } from '../registry';

export const casts = defineRegistry<Decoration>('cast');

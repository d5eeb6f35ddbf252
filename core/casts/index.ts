import type { Decoration } from '../decoration';
import { defineRegistry } from '../registry';
import { glow } from './glow';
import { shadow } from './shadow';

export const casts = defineRegistry<Decoration>('cast', shadow, glow);

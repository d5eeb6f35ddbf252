import type { Decoration } from '../decoration';
import { defineRegistry } from '../registry';
import { plate } from './plate';

export const surrounds = defineRegistry<Decoration>('surround', plate);

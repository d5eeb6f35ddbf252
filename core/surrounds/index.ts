import { defineRegistry } from '../registry';
import { none } from './none';
import type { SurroundDefinition } from './surround';

export const surrounds = defineRegistry<SurroundDefinition>('surround', none as SurroundDefinition);

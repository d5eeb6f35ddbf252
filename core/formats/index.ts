import { defineRegistry } from '../registry';
import type { FormatDefinition } from './format';
import { png } from './png';

export const formats = defineRegistry<FormatDefinition>('format', png);

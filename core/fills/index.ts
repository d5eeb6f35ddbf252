import { defineRegistry } from '../registry';
import { asIs } from './asIs';
import type { FillDefinition } from './fill';
import { oneColour } from './oneColour';

export const fills = defineRegistry<FillDefinition>(
  'fill',
  asIs as FillDefinition,
  oneColour as unknown as FillDefinition,
);

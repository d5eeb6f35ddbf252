import { defineRegistry } from '../registry';
import { asIs } from './asIs';
import { oneColour } from './oneColour';

export const fills = defineRegistry('fill', asIs, oneColour);

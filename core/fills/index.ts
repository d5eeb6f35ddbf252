import { defineRegistry } from '../registry';
import { asIs } from './asIs';
import { negative } from './negative';
import { oneColour } from './oneColour';

export const fills = defineRegistry('fill', asIs, oneColour, negative);

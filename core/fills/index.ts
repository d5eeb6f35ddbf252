import { defineRegistry } from '../registry';
import { asIs } from './asIs';
import { byColour } from './byColour';
import { gradient } from './gradient';
import { oneColour } from './oneColour';
import { twoTones } from './twoTones';

export const fills = defineRegistry('fill', asIs, oneColour, twoTones, gradient, byColour);

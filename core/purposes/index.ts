import { defineRegistry } from '../registry';
import { icon } from './icon';
import { keyColour } from './keyColour';
import { maskPair } from './maskPair';
import { print } from './print';
import type { PurposeDefinition } from './purpose';
import { stamp } from './stamp';
import { videoOverlay } from './videoOverlay';
import { watermark } from './watermark';
import { web } from './web';

export const purposes = defineRegistry<PurposeDefinition>(
  'purpose',
  web,
  watermark,
  videoOverlay,
  icon,
  print,
  stamp,
  maskPair,
  keyColour,
);

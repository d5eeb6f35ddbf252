import { defineRegistry } from '../registry';
import { icon } from './icon';
import { print } from './print';
import type { PurposeDefinition } from './purpose';
import { videoOverlay } from './videoOverlay';
import { watermark } from './watermark';
import { web } from './web';

export const purposes = defineRegistry<PurposeDefinition>('purpose', web, watermark, videoOverlay, icon, print);

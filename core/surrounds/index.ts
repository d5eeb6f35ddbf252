import type { Decoration } from '../decoration';
import { defineRegistry } from '../registry';
import { frameLine } from './frameLine';
import { grain } from './grain';
import { plate } from './plate';
import { rim } from './rim';
import { silhouette } from './silhouette';
import { tint } from './tint';

/** What is laid over a filled mark or stands round it, in the order in which it is put there. */
export const surrounds = defineRegistry<Decoration>('surround', rim, silhouette, plate, frameLine, tint, grain);

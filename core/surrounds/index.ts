import type { Decoration } from '../decoration';
import { defineRegistry } from '../registry';
import { frameLine } from './frameLine';
import { plate } from './plate';
import { rim } from './rim';
import { silhouette } from './silhouette';

export const surrounds = defineRegistry<Decoration>('surround', rim, silhouette, plate, frameLine);

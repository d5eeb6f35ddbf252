import { defineRegistry } from '../registry';
import { box } from './box';
import { frame } from './frame';
import { height } from './height';
import { longEdge } from './longEdge';
import { physical } from './physical';
import { width } from './width';

export const sizes = defineRegistry('size', width, height, longEdge, box, frame, physical);

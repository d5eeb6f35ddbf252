import { defineRegistry } from '../registry';
import { pdf } from './pdf';
import { png } from './png';
import { svg } from './svg';
import { webp } from './webp';

export const formats = defineRegistry('format', png, svg, pdf, webp);

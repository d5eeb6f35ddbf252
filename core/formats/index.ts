import { defineRegistry } from '../registry';
import { pdf } from './pdf';
import { png } from './png';
import { svg } from './svg';

export const formats = defineRegistry('format', png, svg, pdf);

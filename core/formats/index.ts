import { defineRegistry } from '../registry';
import { avif } from './avif';
import { eps } from './eps';
import { ico } from './ico';
import { jpeg } from './jpeg';
import { pdf } from './pdf';
import { png } from './png';
import { svg } from './svg';
import { tiff } from './tiff';
import { webp } from './webp';

export const formats = defineRegistry('format', png, webp, avif, tiff, jpeg, svg, pdf, eps, ico);

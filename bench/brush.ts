import { type FontName, textWidth } from '../demo/text';

export type Random = () => number;
export const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)];
export const between = (random: Random, lo: number, hi: number) => lo + (hi - lo) * random();

export const words = [
  'Sluice',
  'Osier',
  'Ember & Oak',
  'Bobbin',
  'Paddock',
  'Reed',
  'Quoin',
  'Gabel',
  'Drover',
  'Bright Eaves',
  'Rowan',
  'Pageant',
  'Abode',
  'Borough 68',
];

export interface Drawing {
  readonly body: string;
  readonly width: number;
  readonly height: number;
}
/** What a drawing is made with; `ground` is the ground's colour, for details of that colour that belong to the mark. */
export interface Brush {
  readonly random: Random;
  readonly a: string;
  readonly b: string;
  readonly ground: string;
}

export const fitText = (text: string, font: FontName, width: number, most: number) =>
  Math.min(most, (width / textWidth(text, font, 100)) * 100);

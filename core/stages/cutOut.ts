import {
  anchorsField,
  choiceField,
  coloursField,
  flagField,
  numberField,
  optionalNumberField,
  pointField,
} from '../params';
import type { CutOutFacts } from './cutOutFacts';
import { runFlatWay } from './flatWay';
import { MOST_GROUNDS, MOST_LEVEL, MOST_TOLERANCE } from './limits';
import { runKeepWay } from './keepWay';
import { runPaperWay } from './paperWay';
import { defineStage } from './stage';

/** Takes the mark off its ground or off paper, or keeps the transparency it came with. */
export const cutOut = defineStage({
  id: 'cutOut',
  version: 2,
  title: 'Cut out',
  params: {
    way: choiceField({
      label: 'Way',
      initial: 'flat',
      choices: [
        { value: 'flat', label: 'Flat ground' },
        { value: 'paper', label: 'Ink on paper' },
        { value: 'keep', label: 'Keep its own transparency' },
      ],
    }),
    ground: coloursField({
      label: 'Ground',
      hint: 'Empty: measured at the border. More than one where the mark stands on several colours.',
      most: MOST_GROUNDS,
    }),
    tolerance: optionalNumberField({
      label: 'Tolerance',
      hint: 'How far from the ground colour still counts as ground.',
      min: 0,
      max: MOST_TOLERANCE,
      step: 1,
      unit: 'levels',
    }),
    softness: numberField({
      label: 'Softness',
      hint: 'Blurs the edge; 0 keeps it as measured.',
      initial: 0,
      min: 0,
      max: 8,
      step: 0.1,
      unit: 'px',
    }),
    choke: numberField({
      label: 'Choke or spread',
      hint: 'Moves the edge: above 0 inwards, below 0 outwards.',
      initial: 0,
      min: -5,
      max: 5,
      step: 0.1,
      unit: 'px',
    }),
    cleanUp: numberField({
      label: 'Clean-up',
      hint: 'How much of the dirt that compression leaves round edges is forgiven: 1 as measured, 0 none.',
      initial: 1,
      min: 0,
      max: 2,
      step: 0.1,
    }),
    areas: anchorsField({
      label: 'Enclosed areas',
      hint: 'Your decisions, each kept by a point in its area.',
      most: 2000,
    }),
    enclosed: choiceField({
      label: 'Other enclosed areas',
      initial: 'judged',
      choices: [
        { value: 'judged', label: 'As judged' },
        { value: 'open', label: 'All open' },
      ],
    }),
    level: optionalNumberField({
      label: 'Cut level',
      hint: 'How much ink a stroke must hold somewhere to be kept.',
      min: 0.02,
      max: MOST_LEVEL,
      step: 0.005,
    }),
    pen: choiceField({
      label: 'Pen',
      initial: 'pressure',
      choices: [
        { value: 'pressure', label: 'Pressure kept' },
        { value: 'solid', label: 'Solid' },
      ],
    }),
    weight: numberField({
      label: 'Weight',
      hint: 'Strokes heavier above 0, thinner below.',
      initial: 0,
      min: -6,
      max: 6,
      step: 0.1,
      unit: 'px',
    }),
    ink: coloursField({ label: 'Ink colour', hint: 'Empty: measured where the pen inks fully.', most: 1 }),
    keepLines: flagField({
      label: 'Keep printed lines',
      hint: 'Ruled and squared lines are taken out unless they are part of the mark.',
      initial: false,
    }),
    mark: pointField({ label: 'Mark', hint: 'A point in the one signature to keep; none for all ink.' }),
  },
  run(input, p, ctx) {
    const run = { flat: runFlatWay, paper: runPaperWay, keep: runKeepWay }[p.way];
    return run(input, p, ctx) as ReturnType<typeof runKeepWay> & { facts: CutOutFacts };
  },
});

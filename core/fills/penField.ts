import { choiceField } from '../params';

export type Pen = 'solid' | 'pressure';

/** Name of the setting that only a mark of ink on paper has a use for: forms of other marks leave it out. */
export const PEN = 'pen';

/** Words of a sentence for a choice that is not the usual one; nothing for that. */
export const penWords = (pen: string, usual: Pen): string =>
  pen === usual ? '' : pen === 'solid' ? ', solid' : ', the pen’s pressure kept';

/** How ink on paper shows: wholly where the pen went, or as much as the pen left. Of other marks it changes nothing. */
export const penField = (initial: Pen) =>
  choiceField({
    option: 'pen',
    label: 'Ink',
    hint: 'Solid covers wherever the pen went. Pressure kept lets light strokes stay light.',
    initial,
    choices: [
      { value: 'pressure', label: 'Pressure kept' },
      { value: 'solid', label: 'Solid' },
    ],
  });

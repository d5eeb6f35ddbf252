import { choiceField } from '../params';
import { definePurpose } from './purpose';

/** The purest that a screen shows: farthest from any colour of a mark. */
export const KEY_COLOURS = { green: '#00ff00', blue: '#0000ff' } as const;

export const keyColour = definePurpose({
  id: 'keyColour',
  title: 'Key colour',
  size: { id: 'frame', params: { corner: 'centre', markPct: 50 } },
  hint: 'The mark on a whole frame of flat green or blue, which a video program takes out.',
  params: {
    key: choiceField({
      label: 'Key',
      initial: 'green',
      choices: [
        { value: 'green', label: 'Green' },
        { value: 'blue', label: 'Blue' },
      ],
    }),
  },
  treat: (p) => ({ ground: KEY_COLOURS[p.key] }),
});

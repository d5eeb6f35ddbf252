import { choiceField } from '../params';
import { definePurpose } from './purpose';

export const maskPair = definePurpose({
  id: 'maskPair',
  title: 'Mask pair',
  size: { id: 'width', params: { widthPx: 1920 } },
  format: { id: 'tiff', params: { compression: 'none' } },
  formats: ['tiff', 'png'],
  hint: 'Two opaque files of the same size and place: the colours, and a black-and-white mask.',
  params: {
    polarity: choiceField({
      label: 'Mark in the mask',
      initial: 'white',
      choices: [
        { value: 'white', label: 'White' },
        { value: 'black', label: 'Black' },
      ],
    }),
  },
  // Receivers of pairs read no transparency: the colours go on to the borders, and the mask alone cuts them out.
  treat: (p) => ({ mask: p.polarity, isOpaque: true }),
});

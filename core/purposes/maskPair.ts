import { choiceField } from '../params';
import { definePurpose } from './purpose';

export const maskPair = definePurpose({
  id: 'maskPair',
  title: 'Mask pair',
  size: { id: 'width', params: { widthPx: 1920 } },
  format: { id: 'tiff', params: { compression: 'none' } },
  formats: ['tiff', 'png'],
  hint: 'A file with the colours and a black-and-white mask of the same size and place.',
  params: {
    polarity: choiceField({
      label: 'Mark in the mask',
      initial: 'white',
      choices: [
        { value: 'white', label: 'White' },
        { value: 'black', label: 'Black' },
      ],
    }),
    colours: choiceField({
      label: 'Colour file',
      initial: 'clear',
      hint: 'Without transparency its colours go on to the borders, and the mask alone cuts it out.',
      choices: [
        { value: 'clear', label: 'Transparent' },
        { value: 'opaque', label: 'Opaque' },
      ],
    }),
  },
  treat: (p) => ({ mask: p.polarity, isOpaque: p.colours === 'opaque' }),
});

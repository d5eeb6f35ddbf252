import { solidArtwork } from '../artwork/inkPlanes';
import { defineFill } from './fill';
import { PEN, penField, penWords } from './penField';

/** The master's own colours. */
export const asIs = defineFill({
  id: 'asIs',
  title: 'As it is',
  params: { [PEN]: penField('pressure') },
  describe: (p) => `as it is${penWords(p.pen, 'pressure')}`,
  apply: (artwork, p) => (p.pen === 'solid' ? solidArtwork(artwork) : artwork),
});

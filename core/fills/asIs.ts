import { solidArtwork } from '../artwork/inkPlanes';
import { defineFill } from './fill';
import { PEN, penField } from './penField';

/** The master's own colours. */
export const asIs = defineFill({
  id: 'asIs',
  title: 'As it is',
  params: { [PEN]: penField('pressure') },
  describe: (p) => (p.pen === 'solid' ? 'as it is, solid' : 'as it is'),
  apply: (artwork, p) => (p.pen === 'solid' ? solidArtwork(artwork) : artwork),
});
